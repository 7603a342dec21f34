import { crossCorrelation, nextPowerOfTwo } from '@/core/signal/fft';
import { fractionalTaps } from '@/core/signal/interpolation';
import { framesOf, type Sound } from '@/core/signal/sound';

const { abs, ceil, floor, max, min, sqrt } = Math;

export interface Drift {
  /** How much longer the other recording says the same time is, millionths. */
  ppm: number;
  /** Standard error of that, millionths. */
  errorPpm: number;
}

/** Short windows: the clock does not move within them, and their transforms cost little. */
const WINDOW_S = 0.17;
const FEWEST_WINDOWS = 4;
const MOST_WINDOWS = 12;
/** Two clocks of studio machines differ by less. */
const MOST_PPM = 300;
/** Of what the same sound through two chains has in common. */
const TRUSTED_CORRELATION = 0.5;

/**
 * Drift of one recorder's clock against another's: delays of short windows along both takes, and the
 * line through them (least squares).
 * @param delaySamples the delay over the whole
 * @returns null when too few windows can be trusted
 */
export function findDrift(
  reference: Sound,
  other: Sound,
  sampleRateHz: number,
  delaySamples: number,
): Drift | null {
  const length = nextPowerOfTwo(WINDOW_S * sampleRateHz);
  const shift = floor(delaySamples);
  const from = max(0, -shift);
  const to = min(reference.frames, other.frames - shift) - length;
  const count = min(MOST_WINDOWS, floor((to - from) / length) + 1);
  if (count < FEWEST_WINDOWS) return null;
  const reach = min(length / 4, ceil(MOST_PPM * 1e-6 * (to - from)) + 8);
  const points: [number, number][] = [];
  for (let i = 0; i < count; i++) {
    const at = from + floor((i * (to - from)) / (count - 1));
    const late = windowDelay(
      framesOf(reference, at, length)[0]!,
      framesOf(other, at + shift, length)[0]!,
      reach,
    );
    if (late !== null) points.push([at + length / 2, late]);
  }
  if (points.length < FEWEST_WINDOWS) return null;
  const mean = (k: 0 | 1) => points.reduce((sum, point) => sum + point[k], 0) / points.length;
  const [mx, my] = [mean(0), mean(1)];
  let [sxx, sxy] = [0, 0];
  for (const [x, y] of points) {
    sxx += (x - mx) ** 2;
    sxy += (x - mx) * (y - my);
  }
  const slope = sxy / sxx;
  const left = points.reduce((sum, [x, y]) => sum + (y - my - slope * (x - mx)) ** 2, 0);
  const error = sqrt(left / (points.length - 2) / sxx);
  return abs(slope) * 1e6 > MOST_PPM ? null : { ppm: slope * 1e6, errorPpm: error * 1e6 };
}

/**
 * Where the middle of a window of the reference fits best into a window of the other take, in samples, by their
 * cross-correlation and the parabola through its top. What chains do to the phase moves all windows alike, so the
 * slope does not see it.
 * @param reach frames that the middle leaves out at both ends; it may move by fewer
 * @returns null when they have too little in common
 */
function windowDelay(own: Float64Array, other: Float64Array, reach: number): number | null {
  const middle = new Float64Array(own.length);
  middle.set(own.subarray(reach, own.length - reach), reach);
  // The middle stays inside of the window at every lag, so nothing has to be added to hold what would go round.
  const correlation = crossCorrelation(middle, other, own.length);
  const value = (lag: number) => correlation[(lag + own.length) % own.length]!;
  let best = 0;
  // A held note fits as well a period later: of what fits alike, the nearest counts.
  const worth = (lag: number) => abs(value(lag)) * (1 - abs(lag) / (4 * reach));
  for (let lag = 1 - reach; lag < reach; lag++) if (worth(lag) > worth(best)) best = lag;
  let [owns, others] = [0, 0];
  for (let n = reach; n < own.length - reach; n++) {
    owns += middle[n]! * middle[n]!;
    others += other[n + best]! * other[n + best]!;
  }
  if (abs(value(best)) < TRUSTED_CORRELATION * sqrt(owns * others) || owns === 0) return null;
  const [before, top, after] = [value(best - 1), value(best), value(best + 1)];
  const bend = before - 2 * top + after;
  return best + (bend === 0 ? 0 : (0.5 * (before - after)) / bend);
}

/** A drift that is there: well beyond its error, and enough to move the end by a tenth of a sample. */
export function worthCorrecting({ ppm, errorPpm }: Drift, frames: number): boolean {
  return abs(ppm) > 3 * errorPpm && abs(ppm) * 1e-6 * frames > 0.1;
}

const PHASES = 512;
const HALF_TAPS = 24;
const BETA = 8;

let phases: Float64Array[] | null = null;

/** Made on first use, kept: it depends on nothing. */
function phaseTable(): Float64Array[] {
  phases ??= Array.from({ length: PHASES + 1 }, (_, p) =>
    fractionalTaps(p / PHASES, HALF_TAPS, BETA),
  );
  return phases;
}

/**
 * Reads `length` samples from a fractional position on, each `step` samples after the last: the same
 * interpolation as a fixed delay, with taps drawn between 512 phases.
 */
export function readStretched(
  samples: Float64Array,
  position: number,
  length: number,
  step: number,
): Float64Array {
  const table = phaseTable();
  const out = new Float64Array(length);
  for (let n = 0; n < length; n++) {
    const at = position + n * step;
    const whole = floor(at);
    const phase = (at - whole) * PHASES;
    const lower = min(PHASES - 1, floor(phase));
    const share = phase - lower;
    const [a, b] = [table[lower]!, table[lower + 1]!];
    const before = whole - HALF_TAPS + 1;
    let sum = 0;
    for (let k = 0; k < a.length; k++) {
      sum += (a[k]! + share * (b[k]! - a[k]!)) * (samples[before + k] ?? 0);
    }
    out[n] = sum;
  }
  return out;
}
