import { fractionalTaps } from './interpolation';

const { abs, floor, max, min, round } = Math;

/** Taps on either side at the lower of the two rates: flat to 0.44 of it, 90 dB down from 0.5 on. */
const HALF = 48;
const BETA = 9;
/** Middle of the slope, as a share of the lower rate. */
const CUTOFF = 0.47;

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

/**
 * Another sample rate by a Kaiser-windowed sinc, one set of taps for each phase that occurs (Crochiere &
 * Rabiner 1983). Sample n of the result lies at n / toHz of the input; outside the input is zero.
 * @throws RangeError when a rate is no positive whole number
 */
export function resample(samples: Float64Array, fromHz: number, toHz: number): Float64Array {
  if (![fromHz, toHz].every((rate) => Number.isInteger(rate) && rate > 0)) {
    throw new RangeError(`rates of ${fromHz} and ${toHz} Hz cannot be converted`);
  }
  if (fromHz === toHz) return samples;
  const divisor = greatestCommonDivisor(fromHz, toHz);
  const [phases, step] = [toHz / divisor, fromHz / divisor];
  /** Of the input's rate; below it when the result has fewer samples. */
  const cutoff = 2 * CUTOFF * min(1, toHz / fromHz);
  const half = Math.ceil(HALF / min(1, toHz / fromHz));
  const taps = Array.from({ length: phases }, (_, phase) =>
    fractionalTaps(phase / phases, half, BETA, cutoff),
  );
  const out = new Float64Array(round((samples.length * toHz) / fromHz));
  for (let n = 0; n < out.length; n++) {
    const position = n * step;
    const first = floor(position / phases) - half + 1;
    const kernel = taps[position % phases]!;
    const to = min(kernel.length, samples.length - first);
    let sum = 0;
    for (let k = max(0, -first); k < to; k++) sum += kernel[k]! * samples[first + k]!;
    out[n] = abs(sum) < 1e-30 ? 0 : sum;
  }
  return out;
}
