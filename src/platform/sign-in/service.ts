import { hash, verify } from '@node-rs/argon2';
import { type Db, db, transaction } from '../database';
import { UserError } from '../errors';
import type { Credentials, PasswordChange } from './schema';
import {
  type AccountRow,
  countAccounts,
  countFailures,
  endSignIn,
  endSignInsOf,
  findAccount,
  findSignedIn,
  forgetFailures,
  insertAccount,
  insertFailure,
  insertSignIn,
  type SignedIn,
  updatePassword,
} from './store';

const WINDOW_MS = 15 * 60 * 1000;
const FAILURES_PER_NAME = 5;
const FAILURES_IN_ALL = 100;
const LASTS_MS = 30 * 24 * 3600 * 1000;
const WRONG = 'Name and password do not fit together.';

export type { SignedIn } from './store';

/** Whether nobody has an account yet, so that the first start asks for one. */
export async function isFirstStart(): Promise<boolean> {
  return (await countAccounts(db())) === 0;
}

/**
 * Makes the first account; later ones come by invitation.
 * @param also what belongs to the same transaction
 */
export async function createFirstAccount(
  { name, password }: Credentials,
  at: Date,
  also: (tx: Db, accountId: string) => Promise<void> = () => Promise.resolve(),
): Promise<string> {
  const passwordHash = await hash(password);
  return transaction(async (tx) => {
    await tx.rows('LOCK TABLE account IN EXCLUSIVE MODE');
    if ((await countAccounts(tx)) > 0) {
      throw new UserError(409, 'This Zeitbank has its engineer already; sign in instead.');
    }
    const id = await insertAccount(tx, name, passwordHash, at);
    await also(tx, id);
    return id;
  });
}

/** The account that a name and a password open. */
async function checkedAccount(
  { name, password }: Credentials,
  at: Date,
  wrong = WRONG,
): Promise<AccountRow> {
  const since = new Date(at.getTime() - WINDOW_MS);
  const failures = await countFailures(db(), name, since);
  if (failures.name >= FAILURES_PER_NAME || failures.all >= FAILURES_IN_ALL) {
    throw new UserError(429, 'Too many attempts; wait a quarter of an hour, then try again.');
  }
  const account = await findAccount(db(), name);
  // An unknown name takes as long as a wrong password, so that names cannot be guessed by time.
  const fits = account
    ? await verify(account.password_hash, password)
    : (await hash(password)).length < 0;
  if (!account || !fits) {
    await insertFailure(db(), name, at);
    throw new UserError(401, wrong);
  }
  await forgetFailures(db(), name, since);
  return account;
}

/** @returns the id of the sign-in, for the cookie */
export async function signIn(given: Credentials, at: Date): Promise<string> {
  const { id } = await checkedAccount(given, at);
  return insertSignIn(db(), id, at);
}

export async function signedIn(signInId: string, at: Date): Promise<SignedIn | null> {
  return findSignedIn(db(), signInId, new Date(at.getTime() - LASTS_MS));
}

export async function signOut(signInId: string, at: Date): Promise<void> {
  await endSignIn(db(), signInId, at);
}

/** Gives an account another password; everybody signed in with the old one is signed out. */
export async function setPassword(accountId: string, password: string, at: Date): Promise<void> {
  const passwordHash = await hash(password);
  await transaction(async (tx) => {
    await updatePassword(tx, accountId, passwordHash);
    await endSignInsOf(tx, accountId, at);
  });
}

/**
 * Changes one's own password. All sign-ins end, on every device.
 * @returns a new sign-in, for the browser that asked
 */
export async function changePassword(
  person: SignedIn,
  { current, next }: PasswordChange,
  at: Date,
): Promise<string> {
  // Counted as a sign-in: whoever found a browser open may not try passwords without end.
  await checkedAccount({ name: person.name, password: current }, at, 'This is not your password.');
  await setPassword(person.accountId, next, at);
  return insertSignIn(db(), person.accountId, at);
}
