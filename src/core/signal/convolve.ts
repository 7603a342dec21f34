import { complexTransform, nextPowerOfTwo, spectrumOf } from './fft';

const { max, min } = Math;

/** Blocks are at least this long; shorter ones cost more transforms than they save. */
const LEAST_SIZE = 4096;

/**
 * Samples through an impulse response, as long as they were (overlap-add). Two blocks at a time share a
 * transform as its real and imaginary part; the response is real, so they stay apart.
 * @param latency samples of the response before its middle; taken out
 */
export function convolve(samples: Float64Array, taps: Float64Array, latency: number): Float64Array {
  const size = max(LEAST_SIZE, 2 * nextPowerOfTwo(taps.length));
  const block = size - taps.length + 1;
  const response = spectrumOf(taps, size);
  const out = new Float64Array(samples.length);
  const both = new Float64Array(2 * size);
  const made = new Float64Array(2 * size);
  for (let at = 0; at < samples.length; at += 2 * block) {
    both.fill(0);
    for (const part of [0, 1]) {
      const from = at + part * block;
      const count = min(block, samples.length - from);
      for (let n = 0; n < count; n++) both[2 * n + part] = samples[from + n];
    }
    complexTransform(made, both, 'forward');
    for (let k = 0; k < made.length; k += 2) {
      const [re, im] = [made[k], made[k + 1]];
      made[k] = re * response[k] - im * response[k + 1];
      made[k + 1] = re * response[k + 1] + im * response[k];
    }
    complexTransform(both, made, 'inverse');
    for (const part of [0, 1]) {
      const from = at + part * block - latency;
      const to = min(size, out.length - from);
      for (let n = max(0, -from); n < to; n++) out[from + n] += both[2 * n + part];
    }
  }
  return out;
}
