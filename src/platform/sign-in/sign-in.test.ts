import { withTestDatabase } from '../test/database';
import { credentials } from './schema';
import { createFirstAccount, isFirstStart, signedIn, signIn, signOut } from './service';

withTestDatabase();

const mirela = { name: 'Mirela Voss', password: 'lantern under snow' };
const at = (minutes: number) => new Date(Date.UTC(2026, 4, 4, 12, minutes));

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
  const { db } = await import('../database');
  const [{ name }] = await db().rows<{ name: string }>('SELECT name FROM account');
  const id = await signIn({ ...mirela, name: name.toUpperCase() }, at(1));
  expect(await signedIn(id, at(2))).toMatchObject({ name, role: 'owner' });
  await signOut(id, at(3));
  expect(await signedIn(id, at(4))).toBeNull();
});

it('ends after thirty days', async () => {
  const { db } = await import('../database');
  const [{ name }] = await db().rows<{ name: string }>('SELECT name FROM account');
  const id = await signIn({ ...mirela, name }, at(5));
  expect(await signedIn(id, new Date(at(5).getTime() + 31 * 24 * 3600 * 1000))).toBeNull();
});

it('refuses wrong passwords and unknown names alike, and stops guessing', async () => {
  const wrong = { name: 'Nobody', password: 'not this one at all' };
  for (let i = 0; i < 5; i++) {
    await expect(signIn(wrong, at(10))).rejects.toMatchObject({ status: 401 });
  }
  await expect(signIn(wrong, at(11))).rejects.toMatchObject({ status: 429 });
  await expect(signIn(wrong, at(30))).rejects.toMatchObject({ status: 401 });
});

it('asks for a name and a password of some length', () => {
  expect(credentials.safeParse({ name: ' ', password: 'long enough so' }).success).toBe(false);
  expect(credentials.safeParse({ name: 'x', password: 'short' }).success).toBe(false);
});
