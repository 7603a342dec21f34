import { connection } from 'next/server';
import { copyWorries } from '@/platform/copies/service';
import type { Asked } from '@/platform/page';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { comparisonQuery } from '@/steps/comparisons/schema';
import { comparisonList } from '@/steps/overview/service';
import { ComparisonListScreen } from '@/steps/overview/ui/ComparisonListScreen';

export default async function ComparisonsPage({ searchParams }: Asked) {
  await connection();
  const engineer = await engineerOrSignIn();
  const query = comparisonQuery.parse(await searchParams);
  return (
    <ComparisonListScreen
      name={engineer.name}
      list={await comparisonList(engineer, query)}
      worries={await copyWorries(engineer, new Date())}
    />
  );
}
