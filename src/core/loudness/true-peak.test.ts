import { fractionalTaps } from '@/core/signal/interpolation';
import { Random } from '@/core/signal/random';
import { TruePeakMeter } from './true-peak';

const HALF = 12;
const PHASES = [0.25, 0.5, 0.75].map((fraction) => fractionalTaps(fraction, HALF, 5.5));

/** Every output of every phase, none passed over. */
function peakOfAll(samples: Float64Array): number {
  let peak = samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  for (const taps of PHASES) {
    for (let n = -HALF; n < samples.length; n++) {
      let sum = 0;
      for (const [k, tap] of taps.entries()) sum += tap * (samples[n - HALF + 1 + k] ?? 0);
      peak = Math.max(peak, Math.abs(sum));
    }
  }
  return peak;
}

const FRAMES = 6000;
const made = (at: (n: number) => number): Float64Array =>
  Float64Array.from({ length: FRAMES }, (_, n) => at(n));
const random = new Random(5);
let low = 0;
const SIGNALS: Record<string, Float64Array> = {
  'white noise': made(() => 0.3 * random.normal()),
  'dull noise that swells': made((n) => {
    low = 0.95 * low + 0.05 * random.normal();
    return low * (0.5 + 0.45 * Math.sin(n / 700));
  }),
  'a tone between its samples': made((n) => 0.9 * Math.sin((Math.PI / 2) * n + Math.PI / 4)),
  'a tone that grows': made((n) => (n / FRAMES) * Math.sin(0.4 * Math.PI * n + 0.3)),
  'clicks at the edges of blocks': made((n) => (n % 64 === 63 ? 0.7 : n % 64 === 0 ? 0.69 : 0)),
  'steps on an offset': made((n) => 0.5 + (n % 128 < 64 ? 0.2 : -0.2)),
  'one click late in silence': made((n) => (n === 5990 ? -0.4 : n === 5991 ? -0.39 : 0)),
  silence: made(() => 0),
  'the steepest that there is': steepest(),
};

/**
 * Two equal samples, and around them steps of one size, each the way that lifts the output between the two most;
 * before that the sound was nearly as high, so that a bound that is a little too small passes over it.
 */
function steepest(): Float64Array {
  const [, taps] = PHASES as [Float64Array, Float64Array, Float64Array];
  const upTo = (end: number) => taps.slice(0, end).reduce((sum, tap) => sum + tap, 0);
  const burst = new Float64Array(2 * HALF);
  burst[HALF - 1] = 0.3;
  burst[HALF] = 0.3;
  for (let j = HALF; j < burst.length - 1; j++) {
    burst[j + 1] = burst[j]! + 0.1 * Math.sign(1 - upTo(j + 1));
  }
  for (let j = HALF - 2; j >= 0; j--) burst[j] = burst[j + 1]! + 0.1 * Math.sign(upTo(j + 1));
  const reached = taps.reduce((sum, tap, k) => sum + tap * burst[k]!, 0);
  const ramp = (from: number, to: number) =>
    Array.from({ length: 1500 }, (_, n) => from + ((to - from) * n) / 1500);
  const before = 0.985 * reached;
  return Float64Array.from([
    ...ramp(0, before),
    ...ramp(before, burst[0]!),
    ...burst,
    ...ramp(burst[23]!, 0),
  ]);
}

describe('a true peak', () => {
  it.each(Object.entries(SIGNALS))(
    'of %s is that of all outputs, in blocks of any size',
    (_, samples) => {
      const whole = peakOfAll(samples);
      for (const size of [1, 23, 64, 997, 2048, FRAMES]) {
        const meter = new TruePeakMeter();
        for (let at = 0; at < samples.length; at += size)
          meter.push(samples.subarray(at, at + size));
        expect(meter.finish()).toBeCloseTo(whole, 12);
      }
    },
  );
});
