import 'server-only';
import { getIronSession, type SessionOptions } from 'iron-session';
import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { z } from 'zod';
import { placeOfRequest } from '../client-address';
import { config } from '../config';
import {
  cookieKey,
  LASTS_S,
  SESSION_COOKIE,
  sessionContent,
  type SessionContent,
  onlyWith,
  personOnly,
} from './cookie';
import { mayDo, type Right, ROLES } from './roles';
import { type Door, type Opened, signedIn, type SignedIn } from './service';

const COOKIE = { httpOnly: true, sameSite: 'lax', path: '/' } as const;

async function options(): Promise<SessionOptions> {
  return {
    cookieName: SESSION_COOKIE,
    password: await cookieKey(),
    ttl: LASTS_S,
    cookieOptions: { ...COOKIE, secure: config().ZEITBANK_HTTPS === '1' },
  };
}

/** By which a device is known again; kept over signing out. */
const DEVICE_COOKIE = 'zeitbank-device';
const deviceToken = z.string().regex(/^[A-Za-z0-9_-]{32}$/);
const DEVICE_LASTS_S = 365 * 24 * 3600;

/** Where a request knocks. */
export async function doorOf(request: Request): Promise<Door> {
  const device = deviceToken.safeParse((await cookies()).get(DEVICE_COOKIE)?.value);
  return { place: placeOfRequest(request), device: device.success ? device.data : null };
}

async function session() {
  return getIronSession<SessionContent>(await cookies(), await options());
}

export async function startSession({ signInId, device }: Opened): Promise<void> {
  const current = await session();
  current.signInId = signInId;
  await current.save();
  (await cookies()).set(DEVICE_COOKIE, device, {
    ...COOKIE,
    secure: config().ZEITBANK_HTTPS === '1',
    maxAge: DEVICE_LASTS_S,
  });
}

/** Forgets the cookie and returns the sign-in it stood for. */
export async function endSession(): Promise<string | null> {
  const current = await session();
  const id = sessionContent.parse(current).signInId ?? null;
  current.destroy();
  return id;
}

/** The sign-in of the browser that asks; empty where there is none. */
export async function currentSignIn(): Promise<string> {
  return sessionContent.parse({ ...(await session()) }).signInId ?? '';
}

export async function currentPerson(): Promise<SignedIn | null> {
  const signInId = await currentSignIn();
  return signInId ? signedIn(signInId, new Date()) : null;
}

/** For pages: strangers are sent to the sign-in. */
export async function personOrSignIn(): Promise<SignedIn> {
  return (await currentPerson()) ?? redirect('/sign-in');
}

/** For pages: whoever has no right to one is led to where they are at home. */
export async function withRightOrSignIn(right: Right): Promise<SignedIn> {
  const person = await personOrSignIn();
  return mayDo(person.role, right) ? person : redirect(ROLES[person.role].home);
}

/** For pages of the work itself. */
export async function engineerOrSignIn(): Promise<SignedIn> {
  return withRightOrSignIn('work');
}

/** For routes: strangers and those of other roles are refused. */
export async function requireRight(right: Right): Promise<SignedIn> {
  return onlyWith(right, await currentPerson());
}

/** For routes of the work itself. */
export async function requireEngineer(): Promise<SignedIn> {
  return requireRight('work');
}

/** For routes of everybody with an account. */
export async function requirePerson(): Promise<SignedIn> {
  return personOnly(await currentPerson());
}
