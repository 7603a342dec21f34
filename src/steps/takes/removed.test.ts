import { randomUUID } from 'node:crypto';
import { audioLength } from '@/platform/audio-store';
import { BIN_DAYS } from '@/platform/bin';
import { db } from '@/platform/database';
import { one } from '@/platform/one';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { binOf } from '@/steps/overview/bin';
import { binQuery } from '@/steps/overview/schema';
import { bankWithTakes, deliverTake, takeBytes } from '@/steps/test/bank';
import {
  changeTakes,
  overrideCheck,
  removeChain,
  removeTake,
  restoreTake,
  takesOf,
  tidyRemovedTakes,
} from './service';

withTestDatabase();

let engineer: SignedIn;
let comparisonId: string;
let chainIds: string[];
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  ({ comparisonId, chainIds } = await bankWithTakes(engineer));
});

const later = (days: number) => new Date(NOON.getTime() + days * 24 * 3600 * 1000);
const take = async (chainId: string) =>
  (await takesOf(engineer, comparisonId)).find((one) => one.chainId === chainId)!;
const rowOf = (id: string) =>
  one(db().rows<{ row: object }>('SELECT to_jsonb(take) AS row FROM take WHERE id = $1', [id]));
const audioOf = async (id: string) =>
  (await one(db().rows<{ id: number }>('SELECT audio_id AS id FROM take WHERE id = $1', [id]))).id;
const inBin = async (now = later(1)) =>
  (await binOf(engineer, binQuery.parse({}), now)).rows.filter(({ kind }) => kind === 'take');

it('lies in the bin with its sound, and comes back as it was', async () => {
  const { id, fileName } = await take(chainIds[0]!);
  await overrideCheck(engineer, comparisonId, id, { check: 'hum', reason: 'the fridge' }, NOON);
  const before = await rowOf(id);
  const audioId = await audioOf(id);
  const bytes = await audioLength(db(), audioId);
  await removeTake(engineer, comparisonId, id, NOON);
  expect((await takesOf(engineer, comparisonId)).some((one) => one.id === id)).toBe(false);
  expect(await audioLength(db(), audioId)).toBe(bytes);
  expect(await inBin()).toMatchObject([{ id, name: fileName, comparisonId }]);

  await restoreTake(engineer, comparisonId, id);
  // Which take of a chain is used is chosen anew.
  const own = { picked: false, nearest: false, foremost: false };
  expect({ ...(await rowOf(id)).row, ...own }).toEqual({
    ...before.row,
    ...own,
    former_chain_id: chainIds[0],
  });
  const said = await db().rows('SELECT check_name, reason FROM check_override WHERE take_id = $1', [
    id,
  ]);
  expect(said).toEqual([{ check_name: 'hum', reason: 'the fridge' }]);
  expect(await inBin()).toEqual([]);
  await expect(restoreTake(engineer, comparisonId, id)).rejects.toMatchObject({ status: 404 });
});

it('is nobody else’s to put back', async () => {
  const { id } = await take(chainIds[1]!);
  await removeTake(engineer, comparisonId, id, NOON);
  const stranger = await testEngineer('Somebody else of the bin');
  await expect(restoreTake(stranger, comparisonId, id)).rejects.toMatchObject({ status: 404 });
  await expect(restoreTake(engineer, comparisonId, randomUUID())).rejects.toMatchObject({
    status: 404,
  });
  await restoreTake(engineer, comparisonId, id);
});

it('comes back without a chain that was removed meanwhile', async () => {
  const { id } = await take(chainIds[2]!);
  await removeTake(engineer, comparisonId, id, NOON);
  await removeChain(engineer, comparisonId, chainIds[2]!, NOON);
  await restoreTake(engineer, comparisonId, id);
  const back = (await takesOf(engineer, comparisonId)).find((one) => one.id === id);
  expect(back).toMatchObject({ chainId: null, state: 'ready' });
});

it('does not come back beside the same file that was dropped again', async () => {
  const { id } = await take(chainIds[0]!);
  await removeTake(engineer, comparisonId, id, NOON);
  const again = await deliverTake(comparisonId, 'once more.wav', takeBytes(0));
  const dropped = (await takesOf(engineer, comparisonId)).find((one) => one.id === again);
  expect(dropped!.state).toBe('ready');
  await expect(restoreTake(engineer, comparisonId, id)).rejects.toThrow('among the takes again');
  expect(await inBin()).toHaveLength(1);
  await removeTake(engineer, comparisonId, again, NOON);
  await restoreTake(engineer, comparisonId, id);
  expect((await inBin()).map(({ id: left }) => left)).toEqual([again]);
});

it('is erased after thirty days with sound that nothing else has, and not before', async () => {
  const { id } = await take(chainIds[1]!);
  const [ownAudio, sharedAudio] = [await audioOf(id), await audioOf((await take(chainIds[0]!)).id)];
  await removeTake(engineer, comparisonId, id, NOON);
  await tidyRemovedTakes(later(BIN_DAYS - 0.01));
  expect((await inBin()).map((one) => one.id)).toContain(id);
  await tidyRemovedTakes(later(BIN_DAYS + 0.01));
  expect(await inBin()).toEqual([]);
  expect(await audioLength(db(), ownAudio)).toBeNull();
  // Another take has the sound of the one that was dropped twice.
  expect(await audioLength(db(), sharedAudio)).not.toBeNull();
  await expect(restoreTake(engineer, comparisonId, id)).rejects.toMatchObject({ status: 404 });
});

it('keeps a take that has no file of its own out of the bin', async () => {
  const id = await deliverTake(comparisonId, 'notes.wav', Buffer.from('no sound here'));
  await removeTake(engineer, comparisonId, id, NOON);
  expect((await inBin()).map((one) => one.id)).not.toContain(id);
  await expect(
    changeTakes(engineer, comparisonId, { takeIds: [id], chainId: chainIds[0] }, NOON),
  ).rejects.toMatchObject({ status: 404 });
});
