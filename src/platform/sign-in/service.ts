import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { db, transaction, type Tx } from '../database';
import { UserError } from '../errors';
import { type Limit, mayTry, takeBack } from '../limits';
import { recordAlone } from '../events/service';
import { announce } from '../live';
import type { Credentials, PasswordChange } from './schema';
import {
  type AccountRow,
  countAccounts,
  endSignIn,
  endSignInsOf,
  findAccount,
  findSignedIn,
  forgetDevices,
  insertAccount,
  insertDevice,
  insertSignIn,
  knowsDevice,
  type SignedIn,
  updatePassword,
} from './store';

const LASTS_MS = 30 * 24 * 3600 * 1000;
const WRONG = 'Name and password do not fit together.';
const TOO_MANY = 'Too many attempts; wait a quarter of an hour, then try again.';

/** Where somebody tries a password: the network place, and the secret that marks their device. */
export interface Door {
  place: string;
  /** From the device's cookie; null on one that has none yet. */
  device: string | null;
}

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

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
  also: (tx: Tx, accountId: string) => Promise<void> = () => Promise.resolve(),
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

/**
 * The account that a name and a password open. Each attempt is counted before the password is looked at; a
 * device on which this person signed in before has a count of its own, so that nobody else can use it up.
 */
async function checkedAccount(
  { name, password }: Credentials,
  { place, device }: Door,
  wrong = WRONG,
): Promise<AccountRow> {
  const account = await findAccount(db(), name);
  const known =
    account !== null && device !== null && (await knowsDevice(db(), account.id, hashOf(device)));
  const counts: [Limit, string][] = known
    ? [['sign-in on a known device', `${account.id} ${device}`]]
    : [
        ['sign-in by address', place],
        ['sign-in by name', name.toLowerCase()],
      ];
  for (const [limit, who] of counts) {
    if (!(await mayTry(limit, who))) throw new UserError(429, TOO_MANY);
  }
  // An unknown name takes as long as a wrong password, so that names cannot be guessed by time.
  const fits = account
    ? await verify(account.password_hash, password)
    : (await hash(password)).length < 0;
  if (!account || !fits) throw new UserError(401, wrong);
  for (const [limit, who] of counts) await takeBack(limit, who);
  return account;
}

/** A sign-in, and the secret by which its device is known from now on. */
export interface Opened {
  signInId: string;
  device: string;
}

async function open(accountId: string, door: Door, at: Date): Promise<Opened> {
  const device = door.device ?? randomBytes(24).toString('base64url');
  await insertDevice(db(), accountId, hashOf(device), at);
  return { signInId: await insertSignIn(db(), accountId, at), device };
}

export async function signIn(given: Credentials, door: Door, at: Date): Promise<Opened> {
  const { id } = await checkedAccount(given, door);
  const opened = await open(id, door, at);
  const person = await signedIn(opened.signInId, at);
  if (person) await recordAlone(person, 'sign-in', {}, at);
  return opened;
}

export async function signedIn(signInId: string, at: Date): Promise<SignedIn | null> {
  return findSignedIn(db(), signInId, new Date(at.getTime() - LASTS_MS));
}

export async function signOut(signInId: string, at: Date): Promise<void> {
  const accountId = await endSignIn(db(), signInId, at);
  if (accountId) await announce(db(), accountId);
}

/** Gives an account another password; everybody signed in with the old one is signed out. */
export async function setPassword(accountId: string, password: string, at: Date): Promise<void> {
  const passwordHash = await hash(password);
  await transaction(async (tx) => {
    await updatePassword(tx, accountId, passwordHash);
    await endSignInsOf(tx, accountId, at);
    await forgetDevices(tx, accountId);
    await announce(tx, accountId);
  });
}

/** Asks somebody who is signed in for their password once more. @throws UserError */
export async function checkPassword(
  { name }: SignedIn,
  password: string,
  door: Door,
): Promise<void> {
  // Counted as a sign-in: whoever found a browser open may not try passwords without end.
  await checkedAccount({ name, password }, door, 'This is not your password.');
}

/** Changes one's own password: sign-ins end on all devices, and the browser that asked gets a new one. */
export async function changePassword(
  person: SignedIn,
  { current, next }: PasswordChange,
  door: Door,
  at: Date,
): Promise<Opened> {
  await checkPassword(person, current, door);
  await setPassword(person.accountId, next, at);
  await recordAlone(person, 'password', {}, at);
  return open(person.accountId, door, at);
}
