import { randomUUID } from 'node:crypto';
import { db } from '../database';
import { UserError } from '../errors';
import { testDoor, withTestDatabase } from '../test/database';
import { credentials } from './schema';
import {
  changePassword,
  createFirstAccount,
  type Door,
  isFirstStart,
  signedIn,
  signIn,
  signOut,
} from './service';
import { freshSetupWord, requireSetupWord } from './setup';
import { secretOf } from './store';
import { one } from '../one';

withTestDatabase();

const mirela = { name: 'Mirela Voss', password: 'lantern under snow' };
const at = (minutes: number) => new Date(Date.UTC(2026, 4, 4, 12, minutes));

it('makes a secret once, whoever asks first, and keeps it', async () => {
  const name = randomUUID();
  const made = await Promise.all(
    Array.from({ length: 6 }, (_, i) => secretOf(db(), name, () => `value ${i}`)),
  );
  expect(new Set(made).size).toBe(1);
  const unasked = () => {
    throw new Error('it was there');
  };
  expect(await secretOf(db(), name, unasked)).toBe(made[0]);
});

it('lets exactly one first account be made, however many ask at once', async () => {
  expect(await isFirstStart()).toBe(true);
  const made = await Promise.allSettled(
    ['Mirela Voss', 'Somebody Else', 'A Third'].map((name) =>
      createFirstAccount({ ...mirela, name }, at(0)),
    ),
  );
  const good = made.filter(({ status }) => status === 'fulfilled');
  expect(good.length).toBe(1);
  expect(await isFirstStart()).toBe(false);
});

it('signs in, knows who it is, and forgets after signing out', async () => {
  const { name } = await one(db().rows<{ name: string }>('SELECT name FROM account'));
  const given = { ...mirela, name: name.toUpperCase() };
  const { signInId: id } = await signIn(given, testDoor(), at(1));
  expect(await signedIn(id, at(2))).toMatchObject({ name, role: 'owner' });
  await signOut(id, at(3));
  expect(await signedIn(id, at(4))).toBeNull();
});

it('ends after thirty days', async () => {
  const { name } = await one(db().rows<{ name: string }>('SELECT name FROM account'));
  const { signInId: id } = await signIn({ ...mirela, name }, testDoor(), at(5));
  expect(await signedIn(id, new Date(at(5).getTime() + 31 * 24 * 3600 * 1000))).toBeNull();
});

describe('wrong passwords', () => {
  const wrong = 'not this one at all';
  const nameOf = async () =>
    (await db().rows<{ name: string }>('SELECT name FROM account'))[0]!.name;
  const refusal = async (given: typeof mirela, door: Door) => {
    const failed = await signIn(given, door, at(10)).then(
      () => null,
      (error: unknown) => error,
    );
    return failed instanceof UserError ? failed.status : 200;
  };

  it('are refused like unknown names, and stop being looked at', async () => {
    for (const name of ['Nobody', await nameOf()]) {
      const seen = [];
      for (let i = 0; i < 12; i++) seen.push(await refusal({ name, password: wrong }, testDoor()));
      expect(seen).toEqual([...new Array<number>(10).fill(401), 429, 429]);
    }
  });

  it('of one address are counted over all names', async () => {
    const door = testDoor();
    const seen = [];
    for (let i = 0; i < 31; i++) {
      seen.push(await refusal({ name: `Guess ${i}`, password: wrong }, door));
    }
    expect(seen.indexOf(429)).toBe(30);
  });

  it('of strangers keep nobody out on a device they signed in on, nor does another’s device help', async () => {
    const name = await nameOf();
    await db().rows('DELETE FROM attempt_limit');
    const { device } = await signIn({ ...mirela, name }, testDoor(), at(10));
    for (let i = 0; i < 11; i++) await refusal({ name, password: wrong }, testDoor());
    expect(await refusal({ ...mirela, name }, testDoor())).toBe(429);
    expect(await refusal({ ...mirela, name }, testDoor('made up'))).toBe(429);
    expect(await refusal({ ...mirela, name }, testDoor(device))).toBe(200);
  });
});

it('changes a password only with the old one, and signs out everywhere else', async () => {
  await db().rows('DELETE FROM attempt_limit');
  const { name } = await one(db().rows<{ name: string }>('SELECT name FROM account'));
  const here = await signIn({ ...mirela, name }, testDoor(), at(20));
  const there = await signIn({ ...mirela, name }, testDoor(), at(20));
  const person = await signedIn(here.signInId, at(20));
  if (!person) throw new Error('not signed in');
  const change = { current: 'not this one at all', next: 'another word entirely' };
  await expect(changePassword(person, change, testDoor(), at(21))).rejects.toMatchObject({
    status: 401,
  });
  expect(await signedIn(there.signInId, at(21))).not.toBeNull();
  const right = { ...change, current: mirela.password };
  const fresh = await changePassword(person, right, testDoor(here.device), at(22));
  expect(await signedIn(there.signInId, at(22))).toBeNull();
  expect(await signedIn(here.signInId, at(22))).toBeNull();
  expect(await signedIn(fresh.signInId, at(22))).toMatchObject({ name });
  await expect(signIn({ ...mirela, name }, testDoor(), at(23))).rejects.toMatchObject({
    status: 401,
  });
});

it('lets nobody become the owner without the word in the terminal', async () => {
  expect(await freshSetupWord()).toBeNull();
  await db().rows('DELETE FROM account');
  const word = await freshSetupWord();
  expect(word).toMatch(/^([a-z]+-){3}[a-z]+$/);
  const kept = await db().rows<{ value: string }>('SELECT value FROM secret');
  expect(JSON.stringify(kept)).not.toContain(word);
  await expect(requireSetupWord('otter-otter-otter-otter', 'here')).rejects.toMatchObject({
    status: 403,
  });
  await requireSetupWord(` ${word?.toUpperCase()} `, 'here');
  for (let i = 0; i < 18; i++) await requireSetupWord('x', 'here').catch(() => undefined);
  await expect(requireSetupWord(word ?? '', 'here')).rejects.toMatchObject({ status: 429 });
  // The next start has another word.
  await freshSetupWord();
  await expect(requireSetupWord(word ?? '', 'elsewhere')).rejects.toMatchObject({ status: 403 });
});

it('asks for a name and a password of some length', () => {
  expect(credentials.safeParse({ name: ' ', password: 'long enough so' }).success).toBe(false);
  expect(credentials.safeParse({ name: 'x', password: 'short' }).success).toBe(false);
});
