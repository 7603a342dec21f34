import { connection } from 'next/server';
import { personOrSignIn } from '@/platform/sign-in/session';
import { AccountScreen } from '@/ui/AccountScreen';

/** One's own account; for conductors, too. */
export default async function AccountPage() {
  await connection();
  const { name, role } = await personOrSignIn();
  return <AccountScreen name={name} role={role} />;
}
