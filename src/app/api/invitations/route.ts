import { HOUSE } from '@/platform/endpoints';
import { openRoute } from '@/platform/engineer-route';
import { acceptInvitation } from '@/platform/sign-in/people';
import { signIn } from '@/platform/sign-in/service';
import { doorOf, startSession } from '@/platform/sign-in/session';

/** Whoever has an invitation's link makes their account, and is signed in. */
export const POST = openRoute(HOUSE.accept, async (_, __, { token, ...given }, request) => {
  await acceptInvitation(token, given, new Date());
  await startSession(await signIn(given, await doorOf(request), new Date()));
});
