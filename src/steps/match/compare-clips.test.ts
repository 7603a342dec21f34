import { decodeWav } from '@/core/wav/read';
import type { SignedIn } from '@/platform/sign-in/service';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { bankWithClips } from '@/steps/test/bank';
import { compareRecordings, residualRecording } from '@/worker/tasks';
import { readMaster } from '@/worker/tasks/master';
import { clipsOrder } from './compare-clips';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const order = (first: number, second: number, by = engineer) =>
  clipsOrder(by, bank.comparisonId, bank.clipSetId, {
    chainId: bank.chainIds[first]!,
    otherId: bank.chainIds[second]!,
  });

const power = (channels: readonly Float64Array[]) =>
  channels.reduce((sum, one) => sum + one.reduce((own, x) => own + x * x, 0) / one.length, 0) /
  channels.length;

it('sets a clip against another of its set, in time and level as matched', async () => {
  const found = await compareRecordings(await order(0, 1));
  expect(found.samePerformance).toBe(true);
  expect(found.polarityInverted).toBe(false);
  expect(found.delaySamples).toBeCloseTo(0, 0);
  // Equally loud; what differs is tone and room.
  expect(Math.abs(found.levelDb!)).toBeLessThan(3);
  expect(found.nullDb).toBeLessThan(-3);
});

it('leaves of a clip without itself next to nothing, and of another what its figure says', async () => {
  expect((await compareRecordings(await order(0, 0))).nullDb ?? -Infinity).toBeLessThan(-100);
  const both = await order(0, 2);
  const { nullDb } = await compareRecordings(both);
  const left = await decodeWav(await residualRecording(both));
  const whole = await decodeWav((await readMaster(both.other.audioId)).bytes);
  expect(10 * Math.log10(power(left.channels) / power(whole.channels))).toBeCloseTo(nullDb!, 1);
});

it('is of clips of a set of the engineer’s own', async () => {
  const stranger = await testEngineer('Somebody Else');
  await expect(order(0, 1, stranger)).rejects.toMatchObject({ status: 404 });
  await expect(
    clipsOrder(engineer, bank.comparisonId, bank.clipSetId, {
      chainId: bank.chainIds[0]!,
      otherId: bank.clipSetId,
    }),
  ).rejects.toMatchObject({ status: 404 });
});
