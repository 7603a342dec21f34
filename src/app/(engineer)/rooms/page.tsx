import { connection } from 'next/server';
import { withRightOrSignIn } from '@/platform/sign-in/session';
import { roomsOf } from '@/steps/listening/conductor';
import { RoomsScreen } from '@/steps/overview/ui/RoomsScreen';

/** The one place of a conductor: what can be run now, and nothing of what is in it. */
export default async function RoomsPage() {
  await connection();
  const person = await withRightOrSignIn('conduct');
  return <RoomsScreen name={person.name} role={person.role} rooms={await roomsOf(person)} />;
}
