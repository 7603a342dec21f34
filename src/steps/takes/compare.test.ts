import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { bankWithTakes, deliverTake, takeBytes } from '@/steps/test/bank';
import { compareRecordings, residualRecording } from '@/worker/tasks';
import { compareOrder, takeChoices } from './compare';
import { compared } from './schema';
import { takesOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let id: string;
let first: string;
let half: string;
let split: string;

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  ({ comparisonId: id } = await bankWithTakes(engineer));
  const { channels, header } = await decodeWav(takeBytes(0));
  const rate = header.format.sampleRateHz;
  const [samples] = channels as [Float64Array];
  first = (await takesOf(engineer, id)).find(({ fileName }) => fileName.startsWith('Kern'))!.id;
  // The same sound, later and at half its level; and on the second channel of a pair.
  const later = new Float64Array(samples.length);
  later.set(samples.subarray(0, samples.length - 11), 11);
  half = await deliverTake(
    id,
    'Kern 40_half_take2.wav',
    encodeWav([later.map((x) => 0.5 * x)], rate, 24),
  );
  split = await deliverTake(
    id,
    'Kern 40_pair_take3.wav',
    encodeWav([samples.map(() => 0.001), samples.map((x) => -x)], rate, 24),
  );
  await db().rows(`UPDATE take SET channels = '{1}' WHERE id = $1`, [split]);
});

it('sets a take against another as they were recorded', async () => {
  const found = await compareRecordings(await compareOrder(engineer, id, first, half));
  expect(compared.parse(found)).toEqual(found);
  expect(found).toMatchObject({ samePerformance: true, polarityInverted: false });
  expect(found.delaySamples).toBeCloseTo(11, 1);
  expect(found.levelDb).toBeCloseTo(-6.02, 1);
  expect(found.nullDb).toBeLessThan(-40);
});

it('reads of a file the channel that is the take’s', async () => {
  const found = await compareRecordings(await compareOrder(engineer, id, first, split));
  expect(found).toMatchObject({ samePerformance: true, polarityInverted: true });
  expect(found.levelDb).toBeCloseTo(0, 1);
});

it('what is left is a file to hear, far under what it was taken from', async () => {
  const order = await compareOrder(engineer, id, first, half);
  const { channels, header } = await decodeWav(await residualRecording(order));
  const { channels: whole } = await decodeWav(takeBytes(0));
  const rms = (x: Float64Array) => Math.sqrt(x.reduce((sum, s) => sum + s * s, 0) / x.length);
  expect(header.format).toMatchObject({ channels: 1, bitDepth: 24 });
  // Under a hundredth of the half that it was taken from.
  expect(rms(channels[0]!)).toBeLessThan(0.005 * rms(whole[0]!));
});

it('is nobody else’s, and asks for takes that are checked', async () => {
  const stranger = await testEngineer('Somebody Else');
  await expect(compareOrder(stranger, id, first, half)).rejects.toMatchObject({ status: 404 });
  const { comparisonId: other } = await bankWithTakes(engineer);
  await expect(compareOrder(engineer, other, first, half)).rejects.toMatchObject({ status: 404 });
  await db().rows("UPDATE take SET state = 'waiting', facts = NULL, peaks = NULL WHERE id = $1", [
    half,
  ]);
  await expect(compareOrder(engineer, id, first, half)).rejects.toMatchObject({ status: 409 });
});

it('names what has the same name by its file', () => {
  const take = { id: 'a', chain: 'Kern 40', programme: 'performance', detail: '' } as const;
  const side = {
    ...take,
    id: 'c',
    programme: 'off-axis',
    detail: '90',
    fileName: 'k_90.wav',
  } as const;
  const names = takeChoices([
    { ...take, fileName: 'k1.wav' },
    { ...take, id: 'b', fileName: 'k2.wav' },
    side,
  ]).map(({ name }) => name);
  expect(names).toEqual([
    'Kern 40, performance (k1.wav)',
    'Kern 40, performance (k2.wav)',
    'Kern 40, test sound off axis, 90°',
  ]);
});
