import { readBody, respond } from '@/platform/route';
import { signingIn } from '@/platform/sign-in/schema';
import { createFirstAccount, signIn, signOut } from '@/platform/sign-in/service';
import { doorOf, endSession, startSession } from '@/platform/sign-in/session';
import { requireSetupWord } from '@/platform/sign-in/setup';

export function POST(request: Request) {
  return respond(request, async () => {
    const { setupWord, ...given } = await readBody(request, signingIn);
    const door = await doorOf(request);
    if (setupWord !== undefined) {
      await requireSetupWord(setupWord, door.place);
      await createFirstAccount(given, new Date());
    }
    await startSession(await signIn(given, door, new Date()));
  });
}

export function DELETE(request: Request) {
  return respond(request, async () => {
    const signInId = await endSession();
    if (signInId) await signOut(signInId, new Date());
  });
}
