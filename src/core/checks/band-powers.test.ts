import { Random } from '@/core/signal/random';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { shapeDistanceDb } from '@/core/spectrum/closest';
import { BandPowerCollector } from './band-powers';

const RATE = 48_000;

/** Given in pieces of odd lengths, as a file is read. */
function powersOf(samples: Float64Array, block = 4999) {
  const collector = new BandPowerCollector(RATE, samples.length);
  for (let at = 0; at < samples.length; at += block) {
    collector.push(samples.subarray(at, at + block));
  }
  return collector.finish();
}

/** Notes that come and go with pauses between, over a little hiss: nothing stands still for long. */
function phrase(seconds: number): Float64Array {
  const random = new Random(5);
  const samples = new Float64Array(seconds * RATE);
  for (let at = 0; at < samples.length;) {
    const length = Math.round((0.15 + 0.4 * random.uniform()) * RATE);
    const hz = 110 * 2 ** (random.below(36) / 12);
    const level = 0.05 + 0.3 * random.uniform();
    for (let n = 0; n < length && at + n < samples.length; n++) {
      const fade = Math.sin((Math.PI * n) / length) ** 0.5;
      for (let harmonic = 1; harmonic <= 12; harmonic++) {
        const phase = (2 * Math.PI * hz * harmonic * n) / RATE;
        samples[at + n]! += (level * fade * Math.sin(phase)) / harmonic ** 1.5;
      }
    }
    at += length + Math.round(0.3 * random.uniform() * RATE);
  }
  for (let n = 0; n < samples.length; n++) samples[n]! += 1e-5 * random.normal();
  return samples;
}

function delayed(samples: Float64Array, seconds: number): Float64Array {
  const late = new Float64Array(samples.length + Math.round(seconds * RATE));
  late.set(samples, late.length - samples.length);
  return late;
}

const differenceOf = (x: (number | null)[], y: (number | null)[]) =>
  THIRD_OCTAVES.flatMap(({ centerHz }, i) => {
    const [a, b] = [x[i], y[i]];
    return a === null || b === null ? [] : [{ centerHz, db: a! - b! }];
  });

/** So far under the loudest third a band holds what leaks from its neighbours, or hiss. */
const CARRIES_DB = 35;

it.each([2.5, 12])(
  'a take of %d s and its delayed copy agree in every band with signal',
  (seconds) => {
    const take = phrase(seconds);
    const plain = powersOf(take);
    const loudest = Math.max(...plain.thirdsDb.map((db) => db ?? -200));
    const carries = THIRD_OCTAVES.filter(
      (_, i) => (plain.thirdsDb[i] ?? -200) > loudest - CARRIES_DB,
    ).map(({ centerHz }) => centerHz);
    expect(carries.length).toBeGreaterThan(12);
    for (const delay of [0.0123, 0.1, 0.68, 3.3]) {
      const late = powersOf(delayed(take, delay), 12_345);
      const differences = differenceOf(late.thirdsDb, plain.thirdsDb);
      for (const { centerHz, db } of differences) {
        if (!carries.includes(centerHz)) continue;
        expect([delay, centerHz, Math.abs(db) < 0.1]).toEqual([delay, centerHz, true]);
      }
      expect(shapeDistanceDb(differences)).toBeLessThan(0.05);
      expect(Math.abs((late.aWeightedDbfs ?? 0) - (plain.aWeightedDbfs ?? 1))).toBeLessThan(0.1);
    }
  },
);

it('gives the mean square of a sine in its own third, and of noise in all together', () => {
  const sine = Float64Array.from({ length: 4 * RATE }, (_, n) => {
    return 0.5 * Math.sin((2 * Math.PI * 1000 * n) / RATE);
  });
  const at = THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === 1000);
  // 0.5² / 2.
  expect(powersOf(sine).thirdsDb[at]).toBeCloseTo(10 * Math.log10(0.125), 1);
  const random = new Random(2);
  const noise = Float64Array.from({ length: 8 * RATE }, () => 0.1 * random.normal());
  const sum = powersOf(noise).thirdsDb.reduce<number>(
    (all, db) => all + 10 ** ((db ?? -200) / 10),
    0,
  );
  // White noise has equal power in every hertz; the thirds reach from 22.4 Hz to 22.4 kHz of 24.
  expect(10 * Math.log10(sum)).toBeCloseTo(10 * Math.log10((0.01 * 22_370) / 24_000), 1);
});

it('leaves silence out of the mean, and says nothing of nothing', () => {
  const random = new Random(3);
  const loud = Float64Array.from({ length: 2 * RATE }, () => 0.1 * random.normal());
  const within = new Float64Array(10 * RATE);
  within.set(loud, 3 * RATE);
  const differences = differenceOf(powersOf(within).thirdsDb, powersOf(loud).thirdsDb);
  for (const { db } of differences) expect(Math.abs(db)).toBeLessThan(0.1);
  expect(powersOf(new Float64Array(RATE))).toMatchObject({ aWeightedDbfs: null });
  expect(powersOf(new Float64Array(100)).thirdsDb.every((db) => db === null)).toBe(true);
});

it('needs no more pieces for an hour than for minutes', () => {
  // Ten minutes at a low rate: pieces lie apart, and the mean stays what it is.
  const random = new Random(8);
  const rate = 8000;
  const collector = new BandPowerCollector(rate, 600 * rate);
  for (let second = 0; second < 600; second++) {
    collector.push(Float64Array.from({ length: rate }, () => 0.1 * random.normal()));
  }
  const at = THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === 1000);
  const { fromHz, toHz } = THIRD_OCTAVES[at]!;
  const expected = 10 * Math.log10((0.01 * (toHz - fromHz)) / (rate / 2));
  expect(collector.finish().thirdsDb[at]).toBeCloseTo(expected, 1);
});
