import { connection } from 'next/server';
import { origin } from '@/platform/origin';
import { peopleOf } from '@/platform/sign-in/people';
import { engineerOrSignIn } from '@/platform/sign-in/session';
import { PeopleScreen } from '@/ui/PeopleScreen';

export default async function PeoplePage() {
  await connection();
  const engineer = await engineerOrSignIn();
  const view = engineer.role === 'owner' ? await peopleOf(engineer, new Date()) : null;
  return <PeopleScreen name={engineer.name} view={view} origin={await origin()} />;
}
