import { connection } from 'next/server';
import { copiesOf } from '@/platform/copies/service';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { CopiesScreen } from '@/ui/CopiesScreen';

export default async function CopiesPage() {
  await connection();
  const engineer = await engineerOrSignIn();
  const view = engineer.role === 'owner' ? await copiesOf(engineer, new Date()) : null;
  return <CopiesScreen name={engineer.name} view={view} />;
}
