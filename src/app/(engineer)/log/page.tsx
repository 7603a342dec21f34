import { connection } from 'next/server';
import { eventQuery } from '@/platform/events/schema';
import { eventsOf } from '@/platform/events/service';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { LogScreen } from '@/ui/LogScreen';

export default async function LogPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = eventQuery.parse(await searchParams);
  const list = engineer.role === 'owner' ? await eventsOf(engineer, query) : null;
  return <LogScreen name={engineer.name} list={list} />;
}
