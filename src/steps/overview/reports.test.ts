import type { SignedIn } from '@/platform/sign-in/service';
import { db } from '@/platform/database';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { closeSitting } from '@/steps/sitting/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, openTestSitting } from '@/steps/test/bank';
import { reportsOf } from './reports';
import { reportsQuery } from './schema';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const ids = async (given: Record<string, unknown> = {}, by = engineer) =>
  (await reportsOf(by, reportsQuery.parse(given))).rows.map(({ sittingId }) => sittingId);

it('lists what a panel answered, is closed and was read, and nothing else', async () => {
  expect(await ids()).toEqual([]);
  const { sittingId: open } = await openTestSitting(engineer, bank.comparisonId);
  expect(await ids()).toEqual([]);
  // Closed without an answer there is nothing to report.
  await closeSitting(engineer, bank.comparisonId, open, NOON);
  await db().rows(`UPDATE sitting SET analysis = '{}' WHERE id = $1`, [open]);
  expect(await ids()).toEqual([]);

  const sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: ['Aino', 'Bruno'],
    liking: bank.chainIds,
    change: { title: 'By the window' },
  });
  expect(await ids()).toEqual([]);
  await analysed(sittingId);
  expect(await ids()).toEqual([sittingId]);
  expect(await ids({ q: 'WINDOW' })).toEqual([sittingId]);
  expect(await ids({ q: '%' })).toEqual([]);
  expect(await reportsOf(engineer, reportsQuery.parse({ page: '7' }))).toMatchObject({
    query: { page: 1 },
    found: 1,
    all: 1,
  });
  expect(await ids({}, await testEngineer('Another studio'))).toEqual([]);
});

it('does not list what was removed', async () => {
  await db().rows('UPDATE comparison SET deleted_at = $2 WHERE id = $1', [bank.comparisonId, NOON]);
  expect(await ids()).toEqual([]);
});
