import { HOUSE } from '@/platform/endpoints';
import { openRoute } from '@/platform/engineer-route';
import { createFirstAccount, signIn, signOut } from '@/platform/sign-in/service';
import { doorOf, endSession, startSession } from '@/platform/sign-in/session';
import { requireSetupWord } from '@/platform/sign-in/setup';

export const POST = openRoute(HOUSE.signIn, async (_, __, { setupWord, ...given }, request) => {
  const door = await doorOf(request);
  if (setupWord !== undefined) {
    await requireSetupWord(setupWord, door.place);
    await createFirstAccount(given, new Date());
  }
  await startSession(await signIn(given, door, new Date()));
});

export const DELETE = openRoute(HOUSE.signOut, async () => {
  const signInId = await endSession();
  if (signInId) await signOut(signInId, new Date());
});
