import { inverseReal, nextPowerOfTwo, spectrumOf } from './fft';

const { max, min } = Math;

/** Blocks are at least this long; shorter ones cost more transforms than they save. */
const LEAST_SIZE = 4096;

/**
 * Samples through an impulse response, as long as they were (overlap-add).
 * @param latency samples of the response before its middle; taken out
 */
export function convolve(samples: Float64Array, taps: Float64Array, latency: number): Float64Array {
  const size = max(LEAST_SIZE, 2 * nextPowerOfTwo(taps.length));
  const block = size - taps.length + 1;
  const response = spectrumOf(taps, size);
  const out = new Float64Array(samples.length);
  for (let at = 0; at < samples.length; at += block) {
    const piece = spectrumOf(samples.subarray(at, min(samples.length, at + block)), size);
    for (let k = 0; k < size; k++) {
      const [re, im] = [piece[2 * k], piece[2 * k + 1]];
      piece[2 * k] = re * response[2 * k] - im * response[2 * k + 1];
      piece[2 * k + 1] = re * response[2 * k + 1] + im * response[2 * k];
    }
    const made = inverseReal(piece);
    const from = max(0, latency - at);
    const to = min(size, out.length - at + latency);
    for (let n = from; n < to; n++) out[at + n - latency] += made[n];
  }
  return out;
}
