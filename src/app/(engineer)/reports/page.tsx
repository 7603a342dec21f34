import { connection } from 'next/server';
import type { Asked } from '@/platform/page';
import { withRightOrSignIn } from '@/platform/sign-in/session';
import { reportsOf } from '@/steps/overview/reports';
import { reportsQuery } from '@/steps/overview/schema';
import { ReportsScreen } from '@/steps/overview/ui/ReportsScreen';

export default async function ReportsPage({ searchParams }: Asked) {
  await connection();
  const person = await withRightOrSignIn('read');
  const query = reportsQuery.parse(await searchParams);
  const reports = await reportsOf(person, query);
  return <ReportsScreen name={person.name} role={person.role} reports={reports} />;
}
