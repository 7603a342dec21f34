import { z } from 'zod';
import { readBody, respond } from '@/platform/route';
import { acceptInvitation } from '@/platform/sign-in/people';
import { credentials, invitationToken } from '@/platform/sign-in/schema';
import { signIn } from '@/platform/sign-in/service';
import { doorOf, startSession } from '@/platform/sign-in/session';

const accepting = credentials.extend({
  token: z.string().pipe(invitationToken),
});

/** Whoever has an invitation's link makes their account, and is signed in. */
export function POST(request: Request) {
  return respond(request, async () => {
    const { token, ...given } = await readBody(request, accepting);
    await acceptInvitation(token, given, new Date());
    await startSession(await signIn(given, await doorOf(request), new Date()));
  });
}
