import FFT from 'fft.js';

const { cos, PI, sin } = Math;

/** Smallest power of two that is at least n. */
export function nextPowerOfTwo(n: number): number {
  let size = 1;
  while (size < n) size *= 2;
  return size;
}

/**
 * Transforms of real samples by complex ones of half their number: even samples are taken for real parts,
 * odd ones for imaginary parts, and the two spectra are told apart by their symmetry.
 */
class RealTransform {
  private readonly half: FFT;
  private readonly room: Float64Array;
  /** cos and sin of 2πk/size, for the lower half of the bins. */
  private readonly turns: Float64Array;

  constructor(size: number) {
    this.half = new FFT(size / 2);
    this.room = new Float64Array(size);
    this.turns = new Float64Array(size / 2 + 2);
    for (let k = 0; k <= size / 4; k++) {
      this.turns[2 * k] = cos((2 * PI * k) / size);
      this.turns[2 * k + 1] = sin((2 * PI * k) / size);
    }
  }

  forward(out: Float64Array, samples: Float64Array): void {
    const { room, turns } = this;
    this.half.transform(room, samples);
    const last = room.length;
    out[0] = room[0]! + room[1]!;
    out[last] = room[0]! - room[1]!;
    out[1] = out[last + 1] = 0;
    for (let k = 2, mirror = last - 2; k <= mirror; k += 2, mirror -= 2) {
      const evenRe = (room[k]! + room[mirror]!) / 2;
      const evenIm = (room[k + 1]! - room[mirror + 1]!) / 2;
      const oddRe = (room[k + 1]! + room[mirror + 1]!) / 2;
      const oddIm = (room[mirror]! - room[k]!) / 2;
      const re = oddRe * turns[k]! + oddIm * turns[k + 1]!;
      const im = oddIm * turns[k]! - oddRe * turns[k + 1]!;
      out[k] = evenRe + re;
      out[k + 1] = evenIm + im;
      out[mirror] = evenRe - re;
      out[mirror + 1] = im - evenIm;
    }
  }

  inverse(out: Float64Array, spectrum: Float64Array): void {
    const { room, turns } = this;
    const last = room.length;
    room[0] = (spectrum[0]! + spectrum[last]!) / 2;
    room[1] = (spectrum[0]! - spectrum[last]!) / 2;
    for (let k = 2, mirror = last - 2; k <= mirror; k += 2, mirror -= 2) {
      const evenRe = (spectrum[k]! + spectrum[mirror]!) / 2;
      const evenIm = (spectrum[k + 1]! - spectrum[mirror + 1]!) / 2;
      const re = (spectrum[k]! - spectrum[mirror]!) / 2;
      const im = (spectrum[k + 1]! + spectrum[mirror + 1]!) / 2;
      const oddRe = re * turns[k]! - im * turns[k + 1]!;
      const oddIm = im * turns[k]! + re * turns[k + 1]!;
      room[k] = evenRe - oddIm;
      room[k + 1] = evenIm + oddRe;
      room[mirror] = evenRe + oddIm;
      room[mirror + 1] = oddRe - evenIm;
    }
    this.half.inverseTransform(out, room);
  }
}

const transforms = new Map<number, RealTransform>();

/** Transforms keep tables of their size; making them anew each time would cost more than the use. */
function transformOf(size: number): RealTransform {
  let transform = transforms.get(size);
  if (!transform) transforms.set(size, (transform = new RealTransform(size)));
  return transform;
}

/**
 * Spectrum of real samples, a power of two of them and at least four: bins 0 … size/2, interleaved re, im.
 * @param out two longer than `samples`
 */
export function transformReal(out: Float64Array, samples: Float64Array): void {
  transformOf(samples.length).forward(out, samples);
}

/**
 * Real samples of a spectrum, bins 0 … size/2 (scaled by 1/size).
 * @param out two shorter than `spectrum`
 */
export function restoreReal(out: Float64Array, spectrum: Float64Array): void {
  transformOf(out.length).inverse(out, spectrum);
}

/** As `transformReal`, of samples that are zero-padded or cut to `size`. */
export function spectrumOf(samples: Float64Array, size: number): Float64Array {
  let whole = samples;
  if (samples.length !== size) {
    whole = new Float64Array(size);
    whole.set(samples.length > size ? samples.subarray(0, size) : samples);
  }
  const out = new Float64Array(size + 2);
  transformReal(out, whole);
  return out;
}

/** As `restoreReal`, into an array of its own. */
export function inverseReal(spectrum: Float64Array): Float64Array {
  const out = new Float64Array(spectrum.length - 2);
  restoreReal(out, spectrum);
  return out;
}

/** Multiplies spectra bin by bin, the first in place. */
export function multiplySpectra(a: Float64Array, b: Float64Array): void {
  for (let k = 0; k < a.length; k += 2) {
    const re = a[k]! * b[k]! - a[k + 1]! * b[k + 1]!;
    a[k + 1] = a[k]! * b[k + 1]! + a[k + 1]! * b[k]!;
    a[k] = re;
  }
}

/**
 * Cross-correlation of two signals by their spectra: entry `lag` (negative ones counted from the end) is the
 * sum of a[n]·b[n + lag].
 * @param size a power of two that holds both signals one after another, at least four
 */
export function crossCorrelation(a: Float64Array, b: Float64Array, size: number): Float64Array {
  const cross = spectrumOf(a, size);
  for (let i = 1; i < cross.length; i += 2) cross[i] = -cross[i]!;
  multiplySpectra(cross, spectrumOf(b, size));
  return inverseReal(cross);
}

/** Hann window of a length, periodic. */
export function hannWindow(length: number): Float64Array {
  const window = new Float64Array(length);
  for (let n = 0; n < length; n++) window[n] = 0.5 - 0.5 * cos((2 * PI * n) / length);
  return window;
}
