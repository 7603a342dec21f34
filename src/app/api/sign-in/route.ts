import { z } from 'zod';
import { readBody, respond } from '@/platform/route';
import { credentials } from '@/platform/sign-in/schema';
import { createFirstAccount, signIn, signOut } from '@/platform/sign-in/service';
import { endSession, startSession } from '@/platform/sign-in/session';

const signingIn = credentials.extend({ first: z.boolean().default(false) });

export function POST(request: Request) {
  return respond(request, async () => {
    const { first, ...given } = await readBody(request, signingIn);
    if (first) await createFirstAccount(given, new Date());
    await startSession(await signIn(given, new Date()));
  });
}

export function DELETE(request: Request) {
  return respond(request, async () => {
    const signInId = await endSession();
    if (signInId) await signOut(signInId, new Date());
  });
}
