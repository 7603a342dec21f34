import { copyFileSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { keptDraft } from '@/platform/copies/keeping';
import { askForCopy, copiesOf, keepCopies } from '@/platform/copies/service';
import { insertCopy, listCopies, markBegun, markMade } from '@/platform/copies/store';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { bankWithTakes } from '@/steps/test/bank';
import { withBackup } from './backup/file';
import { type CopyPlace, seeToCopies, somethingIsDue } from './copies';

withTestDatabase();

let folder: string;
let owner: SignedIn;
let place: CopyPlace;
/** In the middle of a day; the clock itself says so, and stands. */
let now = new Date(2026, 10, 29, 12, 0, 0);
const see = () => seeToCopies(place, () => now);
const copies = () => listCopies(db(), 100);
const later = (hours: number) => {
  now = new Date(now.getTime() + hours * 3600 * 1000);
  jest.setSystemTime(now);
};

const RUNNING = [
  ...(['hrtime', 'nextTick', 'performance', 'queueMicrotask'] as const),
  ...(['setImmediate', 'clearImmediate', 'setInterval', 'clearInterval'] as const),
  ...(['setTimeout', 'clearTimeout'] as const),
];

beforeAll(async () => {
  jest.useFakeTimers({ now, doNotFake: [...RUNNING] });
  folder = mkdtempSync(path.join(os.tmpdir(), 'copies-'));
  owner = { ...(await testEngineer('Copy keeper')), role: 'owner' };
  await bankWithTakes(owner);
  await db().rows("UPDATE account SET created_at = '2026-01-01'");
  place = {
    url: process.env.DATABASE_URL ?? '',
    folder: path.join(folder, 'copies'),
    root: path.resolve(__dirname, '../..'),
    passphrase: null,
  };
  process.env.ZEITBANK_COPIES = place.folder;
});
afterAll(() => {
  jest.useRealTimers();
  delete process.env.ZEITBANK_COPIES;
  rmSync(folder, { recursive: true, force: true });
});

it('makes the night’s copy once, and brings it back for trial', async () => {
  expect(await somethingIsDue(now, place.folder)).toBe(true);
  await see();
  const [copy, ...others] = await copies();
  expect(others).toEqual([]);
  expect(copy).toMatchObject({ askedBy: null, failed: null, testFailed: null, testedAt: now });
  const file = path.join(place.folder, copy!.file);
  const manifest = await withBackup(file, async (backup) => {
    await backup.verify();
    return backup.manifest;
  });
  const rows = Object.values(manifest.rows).reduce((sum, count) => sum + count, 0);
  expect(copy!.rows).toBe(rows);
  expect(manifest.rows['public.take']).toBeGreaterThan(0);
  expect(readdirSync(place.folder)).toEqual([copy!.file]);
  expect(await somethingIsDue(now, place.folder)).toBe(false);
  await see();
  expect(await copies()).toHaveLength(1);
});

it('makes one when the owner asks, and nobody else may ask or look', async () => {
  const engineer: SignedIn = { ...owner, role: 'engineer' };
  await expect(askForCopy(engineer, now)).rejects.toMatchObject({ status: 403 });
  await expect(copiesOf(engineer, now)).rejects.toMatchObject({ status: 403 });
  later(1);
  await askForCopy(owner, now);
  await askForCopy(owner, now);
  expect(await somethingIsDue(now, place.folder)).toBe(true);
  await see();
  const [newest, ...before] = await copies();
  expect(before).toHaveLength(1);
  expect(newest).toMatchObject({ askedBy: 'Copy keeper', failed: null, testedAt: null });
  const view = await copiesOf(owner, now);
  expect(view.folder).toBe(place.folder);
  expect(view.copies.map(({ id }) => id)).toEqual([newest!.id, before[0]!.id]);
});

it('keeps as many as the owner says, from the next night on', async () => {
  expect((await copiesOf(owner, now)).kept).toEqual({ days: 7, weeks: 4, months: 12 });
  const few = { days: 1, weeks: 0, months: 0 };
  const engineer: SignedIn = { ...owner, role: 'engineer' };
  await expect(keepCopies(engineer, few, now)).rejects.toMatchObject({ status: 403 });
  await keepCopies(owner, few, now);
  const nights = [];
  for (let ago = 3; ago >= 1; ago--) {
    const madeAt = new Date(now.getTime() - ago * 24 * 3600 * 1000);
    const id = await insertCopy(db(), null, madeAt);
    await markBegun(db(), id, `kept-${ago}.zip`, madeAt);
    await markMade(db(), id, { madeAt, bytes: 1, rows: 1 });
    nights.push(id);
  }
  later(24);
  await see();
  const left = (await copies()).map(({ id }) => id);
  expect(nights.filter((id) => left.includes(id))).toEqual([]);
  expect((await copies()).some(({ askedBy }) => askedBy === 'Copy keeper')).toBe(true);
  await keepCopies(owner, { days: 7, weeks: 4, months: 12 }, now);
});

it.each([
  [{ days: 0, weeks: 4, months: 12 }, 'Write a whole number from 1 to 60.'],
  [{ days: 7, weeks: 1.5, months: 12 }, 'Write a whole number from 0 to 60.'],
  [{ days: 7, weeks: 4, months: 1e9 }, 'Write a whole number from 0 to 120.'],
])('refuses to keep %j', (draft, sentence) => {
  expect(keptDraft.safeParse(draft).error?.issues[0]?.message).toBe(sentence);
});

it('tells what was cut off or not possible, and goes on', async () => {
  later(1);
  const cut = await insertCopy(db(), null, now);
  await markBegun(db(), cut, 'cut.zip', now);
  writeFileSync(path.join(place.folder, 'cut.zip.part'), 'half');
  expect(await somethingIsDue(now, place.folder)).toBe(true);
  // A file stands where the folder should be.
  writeFileSync(path.join(folder, 'a file'), '');
  later(0.1);
  await askForCopy(owner, now);
  await seeToCopies({ ...place, folder: path.join(folder, 'a file') }, () => now);
  const [asked] = await copies();
  expect(asked!.failed).toMatch(/\.$/);
  expect((await copies()).find(({ id }) => id === cut)!.failed).toContain('ended in the middle');
  expect((await copiesOf(owner, now)).warnings.join()).toContain('was not possible');
  later(0.1);
  await askForCopy(owner, now);
  await see();
  expect((await copies())[0]).toMatchObject({ failed: null });
  const { warnings } = await copiesOf(owner, now);
  expect(warnings.filter((text) => text.includes('was not possible'))).toEqual([]);
});

it('knows a copy again whose word was lost, as in a bank that was brought back from it', async () => {
  const [made] = (await copies()).filter(({ askedBy, madeAt }) => askedBy && madeAt);
  await db().rows('UPDATE bank_copy SET made_at = NULL, bytes = NULL, rows = NULL WHERE id = $1', [
    made!.id,
  ]);
  expect(await somethingIsDue(now, place.folder)).toBe(true);
  await see();
  const again = (await copies()).find(({ id }) => id === made!.id);
  expect(again).toMatchObject({ failed: null, bytes: made!.bytes, rows: made!.rows });
  await db().rows('UPDATE bank_copy SET made_at = $1 WHERE id = $2', [made!.madeAt, made!.id]);
});

it('thins the nights out, and leaves what somebody asked for', async () => {
  const [asked] = (await copies()).filter(({ askedBy, madeAt }) => askedBy && madeAt);
  const old = [];
  for (let nights = 1; nights <= 12; nights++) {
    const madeAt = new Date(now.getTime() - (40 + nights) * 24 * 3600 * 1000);
    const id = await insertCopy(db(), null, madeAt);
    await markBegun(db(), id, `night-${nights}.zip`, madeAt);
    await markMade(db(), id, { madeAt, bytes: 1, rows: 1 });
    writeFileSync(path.join(place.folder, `night-${nights}.zip`), '.');
    old.push(id);
  }
  await db().rows('UPDATE bank_copy SET made_at = $2 WHERE id = $1', [
    asked!.id,
    new Date(now.getTime() - 45 * 24 * 3600 * 1000),
  ]);
  await see();
  const left = (await copies()).map(({ id }) => id);
  // Of these twelve nights, all in one month or two, the newest of each month stays.
  const stayed = old.filter((id) => left.includes(id));
  expect(stayed.length).toBeGreaterThanOrEqual(1);
  expect(stayed.length).toBeLessThanOrEqual(2);
  expect(left).toContain(asked!.id);
  for (const [i, id] of old.entries()) {
    expect(existsSync(path.join(place.folder, `night-${i + 1}.zip`))).toBe(stayed.includes(id));
  }
});

it('says when a copy does not come back, and tries again a week later', async () => {
  later(24 * 7);
  await see();
  const tried = (await copies()).filter(({ testedAt }) => testedAt?.getTime() === now.getTime());
  expect(tried.map(({ testFailed }) => testFailed)).toEqual([null]);
  later(24 * 7);
  await see();
  const [newest] = await copies();
  expect(newest!.testedAt).toEqual(now);
  // The file goes, the next trial finds nothing.
  later(24 * 7);
  await db().rows('UPDATE bank_copy SET made_at = $1 WHERE id = $2', [now, newest!.id]);
  rmSync(path.join(place.folder, newest!.file));
  await see();
  const { warnings } = await copiesOf(owner, now);
  expect(warnings.join()).toMatch(/did not come back: .* is not there\./);
});

it('lists a backup that was put into the folder, and keeps it', async () => {
  await askForCopy(owner, now);
  await see();
  const [made] = await copies();
  copyFileSync(path.join(place.folder, made!.file), path.join(place.folder, 'by-hand.zip'));
  writeFileSync(path.join(place.folder, 'holiday.zip'), 'no backup at all');
  writeFileSync(path.join(place.folder, 'notes.txt'), 'nor this');
  expect(await somethingIsDue(now, place.folder)).toBe(true);
  await see();
  const byHand = () => copies().then((all) => all.filter(({ file }) => file === 'by-hand.zip'));
  expect(await byHand()).toMatchObject([{ madeAt: made!.madeAt, rows: made!.rows, failed: null }]);
  expect((await copies()).map(({ file }) => file)).not.toContain('holiday.zip');
  // Nothing is left to be found, and years later it is there still.
  expect(await somethingIsDue(now, place.folder)).toBe(false);
  later(3 * 365 * 24);
  await see();
  expect(await byHand()).toHaveLength(1);
  expect(existsSync(path.join(place.folder, 'by-hand.zip'))).toBe(true);
  expect(existsSync(path.join(place.folder, 'holiday.zip'))).toBe(true);
});
