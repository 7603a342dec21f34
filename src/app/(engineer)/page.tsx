import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { ComparisonListScreen } from '@/steps/overview/ui/ComparisonListScreen';
import { comparisonList } from '@/steps/overview/service';

export default async function ComparisonsPage() {
  await connection();
  const engineer = await engineerOrSignIn();
  return <ComparisonListScreen name={engineer.name} lines={await comparisonList(engineer)} />;
}
