import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { heardQuery } from '@/steps/memory/schema';
import { heardList } from '@/steps/memory/service';
import { HeardScreen } from '@/steps/memory/ui/HeardScreen';

export default async function HeardPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = heardQuery.parse(await searchParams);
  return <HeardScreen name={engineer.name} list={await heardList(engineer, query)} />;
}
