import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { BIN_DAYS } from '@/platform/bin';
import { binOf } from '@/steps/overview/bin';
import { binQuery } from '@/steps/overview/schema';
import { BinScreen } from '@/steps/overview/ui/BinScreen';

export default async function BinPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = binQuery.parse(await searchParams);
  const bin = await binOf(engineer, query, new Date());
  return <BinScreen name={engineer.name} bin={bin} days={BIN_DAYS} />;
}
