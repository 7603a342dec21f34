import FFT from 'fft.js';

const { cos, PI } = Math;

/** Smallest power of two that is at least n. */
export function nextPowerOfTwo(n: number): number {
  let size = 1;
  while (size < n) size *= 2;
  return size;
}

const transforms = new Map<number, FFT>();

/** Transforms keep tables of their size; making them anew each time would cost more than the use. */
function transformOf(size: number): FFT {
  let fft = transforms.get(size);
  if (!fft) transforms.set(size, (fft = new FFT(size)));
  return fft;
}

/**
 * Complex spectrum of real samples, zero-padded to `size` (a power of two).
 * Interleaved re, im; all `size` bins are filled.
 */
export function spectrumOf(samples: Float64Array, size: number): Float64Array {
  const fft = transformOf(size);
  const padded = new Float64Array(size);
  padded.set(samples.length > size ? samples.subarray(0, size) : samples);
  const out = new Float64Array(2 * size);
  fft.realTransform(out, padded);
  fft.completeSpectrum(out);
  return out;
}

/** Transforms interleaved complex samples; `out` is as long as they are. */
export function complexTransform(
  out: Float64Array,
  samples: Float64Array,
  direction: 'forward' | 'inverse',
): void {
  const fft = transformOf(samples.length / 2);
  if (direction === 'forward') fft.transform(out, samples);
  else fft.inverseTransform(out, samples);
}

/** Real part of the inverse transform of an interleaved complex spectrum (scaled by 1/size). */
export function inverseReal(spectrum: Float64Array): Float64Array {
  const size = spectrum.length / 2;
  const fft = transformOf(size);
  const out = new Float64Array(2 * size);
  fft.inverseTransform(out, spectrum);
  const real = new Float64Array(size);
  for (let n = 0; n < size; n++) real[n] = out[2 * n];
  return real;
}

/**
 * Cross-correlation of two signals by their spectra: entry `lag` (negative ones counted from the end) is the
 * sum of a[n]·b[n + lag].
 * @param size a power of two that holds both signals one after another
 */
export function crossCorrelation(a: Float64Array, b: Float64Array, size: number): Float64Array {
  const sa = spectrumOf(a, size);
  const sb = spectrumOf(b, size);
  const cross = new Float64Array(2 * size);
  for (let i = 0; i < cross.length; i += 2) {
    cross[i] = sa[i] * sb[i] + sa[i + 1] * sb[i + 1];
    cross[i + 1] = sa[i] * sb[i + 1] - sa[i + 1] * sb[i];
  }
  return inverseReal(cross);
}

/** Hann window of a length, periodic. */
export function hannWindow(length: number): Float64Array {
  const window = new Float64Array(length);
  for (let n = 0; n < length; n++) window[n] = 0.5 - 0.5 * cos((2 * PI * n) / length);
  return window;
}
