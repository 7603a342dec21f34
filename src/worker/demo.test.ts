import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { db, transaction } from '@/platform/database';
import { createFirstAccount, signIn } from '@/platform/sign-in/service';
import { NOON, testDoor, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { createComparison } from '@/steps/comparisons/service';
import { loadDemo } from './demo';
import { insertDemoLoad, markDemoLoaded, undoDemoLoad } from './demo-store';

withTestDatabase();

const draft = {
  title: 'Kept',
  question: '',
  sourceName: 'cello',
  passageName: 'verse',
};
const engineer = { name: 'Mirela Voss', password: 'lantern under snow' };
let folder: string;
let accountId: string;
const said: string[] = [];
const say = (line: string) => void said.push(line);
const comparisons = () => db().rows('SELECT title FROM comparison');

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'demo-'));
  accountId = await createFirstAccount(engineer, NOON);
  const owner = { accountId, studioId: accountId, name: engineer.name, role: 'owner' as const };
  await createComparison(owner, draft, NOON);
});
afterAll(() => rmSync(folder, { recursive: true }));
beforeEach(() => said.splice(0));

it('leaves a bank alone that somebody has an account in, whatever files lie around', async () => {
  // What an interrupted load of an earlier version left behind, beside somebody else's database.
  writeFileSync(path.join(folder, 'demo.begun'), JSON.stringify({ id: accountId, password: 'x' }));
  writeFileSync(
    path.join(folder, 'demo.json'),
    JSON.stringify({ name: engineer.name, password: 'another bank’s', listenerToken: 'x' }),
  );
  expect(await loadDemo(folder, say)).toBeNull();
  expect(said.join()).toContain('data of its own');
  expect(await comparisons()).toEqual([{ title: 'Kept' }]);
});

it('keeps a load that was cut off when somebody has signed in since, and gives a password', async () => {
  await insertDemoLoad(db(), accountId, NOON);
  await signIn(engineer, testDoor(), NOON);
  rmSync(path.join(folder, 'demo.json'));
  const demo = await loadDemo(folder, say);
  expect(said.join()).toContain('all of it is kept');
  expect(await comparisons()).toEqual([{ title: 'Kept' }]);
  expect(demo?.name).toBe(engineer.name);
  const given = { name: engineer.name, password: demo?.password ?? '' };
  await signIn(given, testDoor(), NOON);
  // The next start finds it loaded, and opens the same door.
  expect(await loadDemo(folder, say)).toEqual(demo);
});

it('opens a loaded demo whose file was lost or damaged by a new password', async () => {
  writeFileSync(path.join(folder, 'demo.json'), '{');
  const demo = await loadDemo(folder, say);
  expect(JSON.parse(readFileSync(path.join(folder, 'demo.json'), 'utf8'))).toEqual(demo);
  expect(await comparisons()).toEqual([{ title: 'Kept' }]);
});

it('takes back only what the cut-off load made, all or nothing', async () => {
  await expect(
    transaction(async (tx) => {
      await undoDemoLoad(tx, accountId);
      expect(await tx.rows('SELECT 1 FROM comparison')).toEqual([]);
      throw new Error('the process ends here');
    }),
  ).rejects.toThrow('ends here');
  expect(await comparisons()).toEqual([{ title: 'Kept' }]);
  const { id } = await one(
    db().rows<{ id: string }>(
      `INSERT INTO account (name, password_hash, created_at) VALUES ('Another', '', now()) RETURNING id`,
    ),
  );
  await transaction((tx) => undoDemoLoad(tx, id));
  expect(await comparisons()).toEqual([{ title: 'Kept' }]);
  await markDemoLoaded(db(), NOON);
  expect(existsSync(path.join(folder, 'demo.json'))).toBe(true);
});
