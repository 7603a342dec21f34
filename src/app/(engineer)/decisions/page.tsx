import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { memoryQuery } from '@/steps/decision/schema';
import { decidedList } from '@/steps/decision/service';
import { DecidedScreen } from '@/steps/decision/ui/DecidedScreen';

export default async function DecisionsPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = memoryQuery.parse(await searchParams);
  return <DecidedScreen name={engineer.name} list={await decidedList(engineer, query)} />;
}
