import 'server-only';
import { getIronSession, type SessionOptions } from 'iron-session';
import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { config } from '../config';
import {
  cookieKey,
  LASTS_S,
  SESSION_COOKIE,
  sessionContent,
  type SessionContent,
  engineerOnly,
} from './cookie';
import { signedIn, type SignedIn } from './service';

async function options(): Promise<SessionOptions> {
  return {
    cookieName: SESSION_COOKIE,
    password: await cookieKey(),
    ttl: LASTS_S,
    cookieOptions: {
      httpOnly: true,
      sameSite: 'lax',
      secure: config().ZEITBANK_HTTPS === '1',
      path: '/',
    },
  };
}

async function session() {
  return getIronSession<SessionContent>(await cookies(), await options());
}

export async function startSession(signInId: string): Promise<void> {
  const current = await session();
  current.signInId = signInId;
  await current.save();
}

/** Forgets the cookie and returns the sign-in it stood for. */
export async function endSession(): Promise<string | null> {
  const current = await session();
  const id = sessionContent.parse(current).signInId ?? null;
  current.destroy();
  return id;
}

export async function currentPerson(): Promise<SignedIn | null> {
  const { signInId } = sessionContent.parse({ ...(await session()) });
  return signInId ? signedIn(signInId, new Date()) : null;
}

/** For pages: strangers are sent to the sign-in. */
export async function personOrSignIn(): Promise<SignedIn> {
  return (await currentPerson()) ?? redirect('/sign-in');
}

/** For pages that name chains: conductors are sent to their rooms. */
export async function engineerOrSignIn(): Promise<SignedIn> {
  const person = await personOrSignIn();
  return person.role === 'conductor' ? redirect('/rooms') : person;
}

/** For routes: strangers and conductors are refused. */
export async function requireEngineer(): Promise<SignedIn> {
  return engineerOnly(await currentPerson());
}
