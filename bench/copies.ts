// What a listener with a programmer's tools can still find out from the copies he is sent: which of them are of one
// chain. Each attack links every copy to its nearest neighbour of another trial; chance is one over the chains.
import { randomBytes } from 'node:crypto';
import { findAlignment } from '@/core/alignment/delay';
import { inMemory } from '@/core/matching/align';
import { servedCopy } from '@/core/matching/copy';
import { matchClips } from '@/core/matching/match';
import { performance as perform } from '@/core/simulation/instruments';
import { MICROPHONES } from '@/core/simulation/microphones';
import { readAt } from '@/core/signal/interpolation';
import { soundOf } from '@/core/signal/sound';
import { PREAMPS } from '@/core/simulation/preamps';
import { recordTake, SMALL_STUDIO } from '@/core/simulation/record';
import { decodeWav } from '@/core/wav/read';

const RATE = 48000;
const CHAINS = 6;
const TRIALS = 4;

interface Copy {
  chain: number;
  trial: number;
  samples: Float64Array;
}

const db = (power: number) => 10 * Math.log10(power);
const power = (x: Float64Array) => x.reduce((sum, y) => sum + y * y, 0) / x.length;
const peak = (x: Float64Array) => x.reduce((most, y) => Math.max(most, Math.abs(y)), 0);

/** How alike two copies are by plain subtraction, dB under the first. */
function subtracted(x: Float64Array, y: Float64Array): number {
  const from = 2000;
  const length = Math.min(x.length, y.length) - 2 * from;
  let [error, own] = [0, 0];
  for (let n = from; n < from + length; n++) {
    error += (x[n]! - y[n]!) ** 2;
    own += x[n]! ** 2;
  }
  return db(error / own);
}

/** The same after the best shift between samples and the best gain. */
function fitted(x: Float64Array, y: Float64Array): number {
  const { delaySamples } = findAlignment(soundOf([x]), soundOf([y]), RATE, 0.05);
  const moved = readAt(y, delaySamples, x.length);
  let [xy, yy, xx] = [0, 0, 0];
  for (let n = 3000; n < x.length - 3000; n++) {
    xy += x[n]! * moved[n]!;
    yy += moved[n]! * moved[n]!;
    xx += x[n]! * x[n]!;
  }
  return db(1 - (xy * xy) / (xx * yy) + 1e-16);
}

async function main(): Promise<void> {
  const cello = perform('cello', RATE, 1).subarray(0, 8 * RATE);
  const takes = Array.from({ length: CHAINS }, (_, i) => ({
    name: `chain ${i}`,
    sound: soundOf([
      recordTake(cello, RATE, {
        microphone: MICROPHONES[i % MICROPHONES.length]!,
        preamp: PREAMPS[i % PREAMPS.length]!,
        gainDb: 40,
        distanceM: 0.3,
        angleDeg: 0,
        room: SMALL_STUDIO,
        polarityInverted: false,
        seed: i,
      }),
    ]),
    alignment: { by: 'performance' as const },
  }));
  const plan = { takes, reference: 0, method: 'loudness' as const, fadeS: 0.01, seed: 1 };
  const made = await matchClips({ sampleRateHz: RATE, ...plan }, inMemory(RATE));
  const seed = () => randomBytes(16).toString('hex');
  const copies: Copy[] = [];
  for (let trial = 0; trial < TRIALS; trial++) {
    const ofTrial = seed();
    for (const [chain, { sound }] of made.clips.entries()) {
      const seeds = { trial: ofTrial, clip: seed() };
      const bytes = servedCopy(sound, { seeds, levelLufs: made.targetLufs, gainDb: 0 });
      copies.push({ chain, trial, samples: (await decodeWav(bytes)).channels[0]! });
    }
  }
  const attacks: Record<string, (a: Copy, b: Copy) => number> = {
    'equal samples': (a, b) => (a.samples.every((x, n) => x === b.samples[n]) ? 0 : 1),
    peak: (a, b) => Math.abs(peak(a.samples) - peak(b.samples)),
    'power (RMS)': (a, b) => Math.abs(db(power(a.samples) / power(b.samples))),
    'plain subtraction': (a, b) => subtracted(a.samples, b.samples),
    'subtraction after the best shift and gain': (a, b) => fitted(a.samples, b.samples),
  };
  console.log(`${CHAINS} chains, ${TRIALS} trials; by chance 1 of ${CHAINS} is linked rightly`);
  for (const [name, distance] of Object.entries(attacks)) {
    const [same, other]: [number[], number[]] = [[], []];
    const right = copies.map((copy) => {
      const rest = copies.filter(({ trial }) => trial !== copy.trial);
      const far = rest.map((one) => distance(copy, one));
      rest.forEach((one, i) => (one.chain === copy.chain ? same : other).push(far[i]!));
      const least = Math.min(...far);
      const nearest = rest.filter((_, i) => far[i] === least);
      return nearest.filter(({ chain }) => chain === copy.chain).length / nearest.length;
    });
    const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;
    console.log(
      `${name}: ${(100 * mean(right)).toFixed(0)} % linked rightly; ` +
        `same chain ${mean(same).toFixed(4)}, other chain ${mean(other).toFixed(4)}`,
    );
  }
}

void main();
