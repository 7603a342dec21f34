import { db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { addChain, chainsOf } from '@/steps/chains/service';
import {
  addPassage,
  changeComparison,
  comparisonOf,
  createComparison,
  removeComparison,
  removePassage,
  restoreComparison,
  restoreSource,
  sourcesSeen,
} from '@/steps/comparisons/service';
import { addGear, removeGear, restoreGear } from '@/steps/gear/service';
import { restorePassage } from '@/steps/match/service';
import { plainGear } from '@/steps/test/gear';
import { bringChainBack, removeChain } from '@/steps/takes/service';
import { binOf } from './bin';
import { binQuery } from './schema';

withTestDatabase();

let engineer: SignedIn;
const DAY_MS = 24 * 3600 * 1000;
const later = (days: number) => new Date(NOON.getTime() + days * DAY_MS);
const asked = (given: Record<string, unknown> = {}) => binQuery.parse(given);
const names = async (now = later(1), given = {}) =>
  (await binOf(engineer, asked(given), now)).rows.map(({ name }) => name);
const written = async (id: string) => ({
  ...(await comparisonOf(engineer, id)),
  sources: await sourcesSeen(engineer, id),
});
const start = (title: string) =>
  createComparison(
    engineer,
    { title, question: '', sourceName: 'Cello', passageName: 'end' },
    NOON,
  );
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
});

it('holds what was removed, the newest first, until each is put back', async () => {
  expect(await binOf(engineer, asked(), later(1))).toMatchObject({ all: 0, rows: [] });
  const [kept, gone] = [await start('Kept'), await start('Gone')];
  const chain = await addChain(engineer, kept, { name: 'A chain', items: '', priceCents: null });
  const gear = await addGear(engineer, plainGear('An item'), NOON);
  await removeGear(engineer, gear, NOON);
  await removeChain(engineer, kept, chain, later(0.1));
  await removeComparison(engineer, gone, later(0.2));
  const { rows } = await binOf(engineer, asked(), later(1));
  expect(rows).toMatchObject([
    { kind: 'comparison', id: gone, name: 'Gone' },
    { kind: 'chain', id: chain, comparisonId: kept, comparison: 'Kept' },
    { kind: 'gear', id: gear, name: 'An item' },
  ]);
  expect(await names(later(1), { sort: 'oldest' })).toEqual(['An item', 'A chain', 'Gone']);
  expect(await names(later(1), { q: 'KEPT' })).toEqual(['A chain']);
  expect(await names(later(1), { q: '%' })).toEqual([]);

  await restoreComparison(engineer, gone);
  await restoreGear(engineer, gear);
  expect(await names()).toEqual(['A chain']);
  await bringChainBack(engineer, kept, chain);
  expect(await names()).toEqual([]);
  expect((await chainsOf(engineer, kept)).map(({ name }) => name)).toEqual(['A chain']);
});

it('holds passages and sources beside them', async () => {
  const id = await start('Two passages');
  const passageId = await addPassage(engineer, id, { name: 'coda', sourceId: null });
  await removePassage(engineer, id, passageId, NOON);
  const { sources, ...comparison } = await written(id);
  const more = { id: null, name: 'Viola', capture: sources[0]!.capture, passages: '' };
  await changeComparison(engineer, id, { ...comparison, sources: [...sources, more] }, NOON);
  const two = await written(id);
  await changeComparison(engineer, id, { ...two, sources }, later(0.5));
  const { rows } = await binOf(engineer, asked(), later(1));
  expect(rows).toMatchObject([
    { kind: 'source', name: 'Viola', comparison: 'Two passages' },
    { kind: 'passage', id: passageId, name: 'coda', comparisonId: id },
  ]);
  await restoreSource(engineer, id, rows[0]!.id);
  await restorePassage(engineer, id, passageId);
  expect(await names()).toEqual([]);
});

it('offers it for thirty days, and erases nothing after them', async () => {
  const id = await start('Old');
  await removeComparison(engineer, id, NOON);
  expect(await names(later(30))).toEqual(['Old']);
  expect(await names(later(30.01))).toEqual([]);
  await restoreComparison(engineer, id);
  expect(await db().rows('SELECT 1 FROM comparison WHERE id = $1', [id])).toHaveLength(1);
});

it('leaves out chains of a comparison that was removed itself: they come back with it', async () => {
  const id = await start('With a chain');
  const chain = await addChain(engineer, id, { name: 'Within', items: '', priceCents: null });
  await removeChain(engineer, id, chain, NOON);
  await removeComparison(engineer, id, NOON);
  expect(await names()).toEqual(['With a chain']);
  await restoreComparison(engineer, id);
  expect(await names()).toEqual(['Within']);
});

it('pages through a large bin once, and is of one’s own studio', async () => {
  engineer = await testEngineer('Tidy Tina');
  for (let i = 0; i < LIST_PAGE + 3; i++) {
    await removeGear(engineer, await addGear(engineer, plainGear(`Item ${i}`), NOON), NOON);
  }
  const pages = [await names(later(1), { page: '1' }), await names(later(1), { page: '2' })];
  expect(pages.map(({ length }) => length)).toEqual([LIST_PAGE, 3]);
  expect(new Set(pages.flat()).size).toBe(LIST_PAGE + 3);
  // Beyond the last page is the last one.
  expect(await names(later(1), { page: '99' })).toEqual(pages[1]);
});
