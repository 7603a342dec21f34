import { redirect } from 'next/navigation';
import { connection } from 'next/server';
import { isFirstStart } from '@/platform/sign-in/service';
import { currentPerson } from '@/platform/sign-in/session';
import { SignInScreen } from '@/ui/SignInScreen';

export default async function SignInPage() {
  await connection();
  const firstStart = await isFirstStart();
  if (!firstStart && (await currentPerson())) redirect('/');
  return <SignInScreen firstStart={firstStart} />;
}
