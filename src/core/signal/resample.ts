import { fractionalTaps } from './interpolation';
import { framesOf, type Sound, soundOf } from './sound';

const { abs, floor, min, round } = Math;

/** Taps on either side at the lower of the two rates: flat to 0.44 of it, 90 dB down from 0.5 on. */
const HALF = 48;
const BETA = 9;
/** Middle of the slope, as a share of the lower rate. */
const CUTOFF = 0.47;

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

/**
 * Sound at another sample rate, worked out where it is read: a Kaiser-windowed sinc, one set of taps for each
 * phase that occurs (Crochiere & Rabiner 1983). Frame n of it lies at n / toHz of the sound; outside is zero.
 * @throws RangeError when a rate is no positive whole number
 */
export function resampled(sound: Sound, fromHz: number, toHz: number): Sound {
  if (![fromHz, toHz].every((rate) => Number.isInteger(rate) && rate > 0)) {
    throw new RangeError(`rates of ${fromHz} and ${toHz} Hz cannot be converted`);
  }
  if (fromHz === toHz) return sound;
  const divisor = greatestCommonDivisor(fromHz, toHz);
  const [phases, step] = [toHz / divisor, fromHz / divisor];
  /** Of the input's rate; below it when the result has fewer samples. */
  const cutoff = 2 * CUTOFF * min(1, toHz / fromHz);
  const half = Math.ceil(HALF / min(1, toHz / fromHz));
  const taps = Array.from({ length: phases }, (_, phase) =>
    fractionalTaps(phase / phases, half, BETA, cutoff),
  );
  const frames = round((sound.frames * toHz) / fromHz);
  const read = (from: number, into: readonly Float64Array[]) => {
    const length = into[0]!.length;
    const first = floor((from * step) / phases) - half + 1;
    const last = floor(((from + length - 1) * step) / phases) + half;
    const around = framesOf(sound, first, last - first + 1);
    for (const [c, out] of into.entries()) {
      const samples = around[c]!;
      for (let n = 0; n < length; n++) {
        const position = (from + n) * step;
        const whole = floor(position / phases);
        const at = whole - half + 1 - first;
        const kernel = taps[position - whole * phases]!;
        let sum = 0;
        for (let k = 0; k < kernel.length; k++) sum += kernel[k]! * samples[at + k]!;
        out[n] = from + n < 0 || from + n >= frames || abs(sum) < 1e-30 ? 0 : sum;
      }
    }
  };
  return { channels: sound.channels, frames, read };
}

/** As `resampled`, of one channel that is held in memory. */
export function resample(samples: Float64Array, fromHz: number, toHz: number): Float64Array {
  if (fromHz === toHz) return samples;
  const made = resampled(soundOf([samples]), fromHz, toHz);
  return framesOf(made, 0, made.frames)[0]!;
}
