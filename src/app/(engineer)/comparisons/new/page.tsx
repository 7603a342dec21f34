import { connection } from 'next/server';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { NewComparisonScreen } from '@/steps/comparisons/ui/NewComparisonScreen';

export default async function NewComparisonPage() {
  await connection();
  const engineer = await engineerOrSignIn();
  return <NewComparisonScreen name={engineer.name} />;
}
