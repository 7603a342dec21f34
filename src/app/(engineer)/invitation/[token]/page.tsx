import { connection } from 'next/server';
import { invitationBehind } from '@/platform/sign-in/people';
import { invitationToken } from '@/platform/sign-in/schema';
import { InvitationScreen } from '@/ui/InvitationScreen';

/** Where one more person makes their account. */
export default async function InvitationPage({ params }: { params: Promise<{ token: string }> }) {
  await connection();
  const token = invitationToken.safeParse((await params).token);
  const invitation = token.success ? await invitationBehind(token.data, new Date()) : null;
  return <InvitationScreen token={token.data ?? ''} role={invitation?.role ?? null} />;
}
