import { randomBytes } from 'node:crypto';
import { unsealData } from 'iron-session';
import { z } from 'zod';
import { db } from '../database';
import { UserError } from '../errors';
import { mayDo, type Right, ROLES } from './roles';
import { signedIn, type SignedIn } from './service';
import { secretOf } from './store';

export const SESSION_COOKIE = 'zeitbank';
export const LASTS_S = 30 * 24 * 3600;

export const sessionContent = z.object({ signInId: z.uuid().optional() });
export type SessionContent = z.infer<typeof sessionContent>;

export async function cookieKey(): Promise<string> {
  return secretOf(db(), 'cookie', () => randomBytes(32).toString('hex'));
}

/** Whoever has an account: strangers are refused. */
export function personOnly(person: SignedIn | null): SignedIn {
  if (!person) throw new UserError(401, 'You are not signed in; sign in and repeat the last step.');
  return person;
}

/** Whoever has a right: strangers and those of other roles are refused. */
export function onlyWith(right: Right, asking: SignedIn | null): SignedIn {
  const person = personOnly(asking);
  if (!mayDo(person.role, right)) throw new UserError(403, ROLES[person.role].refusal);
  return person;
}

/** Who a raw cookie stands for, where the framework's cookie store is not there. Others are refused. */
export async function requireEngineerOfCookie(cookie: string | undefined): Promise<SignedIn> {
  const opened = cookie
    ? await unsealData<SessionContent>(cookie, { password: await cookieKey(), ttl: LASTS_S })
    : {};
  const { signInId } = sessionContent.parse(opened);
  return onlyWith('work', signInId ? await signedIn(signInId, new Date()) : null);
}
