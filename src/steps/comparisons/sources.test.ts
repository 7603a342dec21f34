import { randomUUID } from 'node:crypto';
import { xorshiftNoise } from '@/core/test/signals';
import { encodeWav } from '@/core/wav/write';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { bankWithTakes, deliverTake, RATE } from '@/steps/test/bank';
import { restorePassage } from '@/steps/match/service';
import { changeTakes, takesOf } from '@/steps/takes/service';
import type { SourceDraft } from './schema';
import {
  addPassage,
  changeComparison,
  comparisonOf,
  createComparison,
  removePassage,
  restoreSource,
  sourcesSeen,
} from './service';
import { copyOf } from '@/steps/chains/service';
import { listPassages } from './store';

withTestDatabase();

let engineer: SignedIn;
let id: string;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  ({ comparisonId: id } = await bankWithTakes(engineer));
});

async function write(sources: SourceDraft[]): Promise<void> {
  await changeComparison(engineer, id, { ...(await comparisonOf(engineer, id)), sources }, NOON);
}

const fresh = (name: string): SourceDraft => ({
  id: null,
  name,
  passages: 'bridge',
  capture: 'one after another',
});

it('a source keeps its takes and passages whatever it is called', async () => {
  const own = await one(sourcesSeen(engineer, id));
  await write([own, fresh('Cello')]);
  const cello = (await sourcesSeen(engineer, id))[1]!;
  expect(cello).toMatchObject({ name: 'Cello', capture: 'one after another', passages: 'bridge' });
  const takeIds = (await takesOf(engineer, id)).slice(0, 2).map((take) => take.id);
  await changeTakes(engineer, id, { takeIds, sourceId: cello.id }, NOON);
  await addPassage(engineer, id, { name: 'bridge', sourceId: cello.id });
  await write([
    { ...own, name: 'Clarinet in A' },
    { ...cello, name: 'Violoncello' },
  ]);
  const takes = await takesOf(engineer, id);
  expect(takes.filter(({ sourceId }) => sourceId === cello.id).map((take) => take.id)).toEqual(
    expect.arrayContaining(takeIds),
  );
  expect((await listPassages(db(), id)).map(({ sourceName }) => sourceName)).toEqual([
    'Clarinet in A',
    'Violoncello',
  ]);
  expect((await comparisonOf(engineer, id)).sourceName).toBe('Clarinet in A');
});

it('a file is given to the source that its name holds, by the name of today', async () => {
  const noise = encodeWav([xorshiftNoise(5, 0.1, RATE)], RATE, 24);
  const takeId = await deliverTake(id, 'Kern 40 Violoncello 3.wav', noise);
  const [, cello] = await sourcesSeen(engineer, id);
  const take = (await takesOf(engineer, id)).find((one) => one.id === takeId);
  expect(take?.sourceId).toBe(cello!.id);
});

it('one that something belongs to stays, one that nothing belongs to goes', async () => {
  const before = await sourcesSeen(engineer, id);
  const [own, cello] = before;
  await expect(write([own!])).rejects.toThrow('belong to “Violoncello”, so it stays');
  expect(await sourcesSeen(engineer, id)).toEqual(before);
  const takeIds = (await takesOf(engineer, id)).map((take) => take.id);
  await changeTakes(engineer, id, { takeIds, sourceId: own!.id }, NOON);
  const passage = (await listPassages(db(), id)).find(({ sourceId }) => sourceId === cello!.id);
  await removePassage(engineer, id, passage?.id ?? '', NOON);
  await write([own!]);
  expect(await sourcesSeen(engineer, id)).toEqual([own]);

  // Both lie in the bin; a passage whose source is still there comes to the first.
  await restorePassage(engineer, id, passage!.id);
  const back = (await listPassages(db(), id)).find((one) => one.id === passage!.id);
  expect(back).toMatchObject({ name: passage!.name, sourceId: own!.id });
  await removePassage(engineer, id, passage!.id, NOON);
  await restoreSource(engineer, id, cello!.id);
  await expect(restoreSource(engineer, id, cello!.id)).rejects.toMatchObject({ status: 404 });
  expect((await sourcesSeen(engineer, id)).map(({ name }) => name)).toEqual([
    own!.name,
    'Violoncello',
  ]);
  await restorePassage(engineer, id, passage!.id);
  await removePassage(engineer, id, passage!.id, NOON);
  await write([own!]);
});

it('sources change places, and come back as they were written', async () => {
  const own = await one(sourcesSeen(engineer, id));
  await write([own, fresh('Cello'), fresh('Bassoon')]);
  const [, cello, bassoon] = await sourcesSeen(engineer, id);
  await write([bassoon!, own, cello!]);
  expect(await sourcesSeen(engineer, id)).toEqual([bassoon, own, cello]);
  await write([own, cello!, bassoon!]);
});

it('nobody takes a source of another comparison, nor sees those of a stranger', async () => {
  const draft = { title: 'Other', question: '', sourceName: 'Viola', passageName: 'x' };
  const other = await createComparison(engineer, draft, NOON);
  const viola = await one(sourcesSeen(engineer, other));
  const [own, ...rest] = await sourcesSeen(engineer, id);
  await expect(write([own!, ...rest, viola])).rejects.toThrow('nothing was changed');
  await expect(write([{ ...own!, id: randomUUID() }])).rejects.toMatchObject({ status: 409 });
  const takeIds = (await takesOf(engineer, id)).map((take) => take.id);
  await expect(
    changeTakes(engineer, id, { takeIds, sourceId: viola.id }, NOON),
  ).rejects.toMatchObject({ status: 404 });
  // The database itself holds takes and sources of one comparison together.
  await expect(
    db().rows('UPDATE take SET source_id = $1 WHERE comparison_id = $2', [viola.id, id]),
  ).rejects.toThrow('foreign key');
  const stranger = await testEngineer('Somebody Else');
  await expect(sourcesSeen(stranger, id)).rejects.toMatchObject({ status: 404 });
});

it('a copy has sources of its own, with the same passages', async () => {
  const [own, cello] = await sourcesSeen(engineer, id);
  await addPassage(engineer, id, { name: 'low', sourceId: cello!.id });
  const copy = await copyOf(engineer, id, NOON);
  const copied = await sourcesSeen(engineer, copy);
  expect(copied.map(({ name }) => name)).toEqual(['Clarinet in A', 'Cello', 'Bassoon']);
  expect(copied.map((source) => source.id)).not.toContain(own!.id);
  expect((await listPassages(db(), copy)).at(-1)).toMatchObject({
    name: 'low',
    sourceId: copied[1]!.id,
    sourceName: 'Cello',
  });
});
