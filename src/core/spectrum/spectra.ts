import { complexTransform, hannWindow, nextPowerOfTwo } from '@/core/signal/fft';
import { finiteOrNull, powerToDb } from '@/core/signal/units';
import type { Band } from './bands';

const { floor, max, min } = Math;

/** Auto and cross power densities of two signals, channels added; bins 0 … size/2. */
export interface Spectra {
  sampleRateHz: number;
  size: number;
  /** Of the reference, of the other, and conj(reference)·other. */
  xx: Float64Array;
  yy: Float64Array;
  re: Float64Array;
  im: Float64Array;
}

/** Fine enough for the third around 25 Hz, which is 6 Hz wide. */
const PIECE_S = 0.6;
const FEWEST_PIECES = 8;
const MOST_PIECES = 400;

/**
 * Averaged spectra of Hann pieces that overlap by half (Welch 1967), scaled so that their sum over
 * bins is the mean square.
 * @param shift how many whole samples `other` is late
 */
export function averagedSpectra(
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  sampleRateHz: number,
  shift = 0,
): Spectra {
  const from = max(0, -shift);
  const to = min(reference[0].length, other[0].length - shift);
  const wanted = nextPowerOfTwo(PIECE_S * sampleRateHz);
  const size = max(64, min(wanted, nextPowerOfTwo(max(1, (to - from) / FEWEST_PIECES))));
  const bins = size / 2 + 1;
  const [xx, yy, re, im] = Array.from({ length: 4 }, () => new Float64Array(bins));
  const window = hannWindow(size);
  const windowPower = window.reduce((sum, w) => sum + w * w, 0);
  const hop = max(size / 2, floor((to - from - size) / MOST_PIECES));
  const both = new Float64Array(2 * size);
  const made = new Float64Array(2 * size);
  let pieces = 0;
  for (let at = from; at + size <= to || pieces === 0; at += hop) {
    for (let c = 0; c < min(reference.length, other.length); c++) {
      // Two real signals go through one complex transform, as its real and imaginary part.
      const held = max(0, min(size, to - at));
      for (let n = 0; n < held; n++) {
        both[2 * n] = window[n] * reference[c][at + n];
        both[2 * n + 1] = window[n] * other[c][at + shift + n];
      }
      both.fill(0, 2 * held);
      complexTransform(made, both, 'forward');
      for (let k = 0; k < bins; k++) {
        const mirror = 2 * ((size - k) % size);
        const [ur, ui, vr, vi] = [made[2 * k], made[2 * k + 1], made[mirror], made[mirror + 1]];
        const [ar, ai, br, bi] = [(ur + vr) / 2, (ui - vi) / 2, (ui + vi) / 2, (vr - ur) / 2];
        xx[k] += ar * ar + ai * ai;
        yy[k] += br * br + bi * bi;
        re[k] += ar * br + ai * bi;
        im[k] += ar * bi - ai * br;
      }
    }
    pieces++;
  }
  for (let k = 0; k < bins; k++) {
    const twice = k === 0 || k === size / 2 ? 1 : 2;
    const scale = twice / (size * windowPower * pieces * min(reference.length, other.length));
    xx[k] *= scale;
    yy[k] *= scale;
    re[k] *= scale;
    im[k] *= scale;
  }
  return { sampleRateHz, size, xx, yy, re, im };
}

/** Bins whose middle lies in a band, and the nearest one when there is none. */
export function binsOf({ sampleRateHz, size }: Spectra, { fromHz, toHz }: Band): [number, number] {
  const bin = (hz: number) => (hz * size) / sampleRateHz;
  const [first, last] = [Math.ceil(bin(fromHz)), floor(bin(toHz))];
  if (first <= last) return [first, min(last, size / 2)];
  const nearest = min(size / 2, Math.round(bin(Math.sqrt(fromHz * toHz))));
  return [nearest, nearest];
}

/** Level of a signal in each band, dBFS (mean square; a full-scale sine reads -3.01); null where nothing is. */
export function bandLevels(
  channels: readonly Float64Array[],
  sampleRateHz: number,
  bands: readonly Band[],
): (number | null)[] {
  return levelsOfOther(averagedSpectra(channels, channels, sampleRateHz), bands);
}

/** As `bandLevels`, of the second of two signals whose spectra are known. */
export function levelsOfOther(spectra: Spectra, bands: readonly Band[]): (number | null)[] {
  return bands.map((band) => {
    if (band.fromHz >= spectra.sampleRateHz / 2) return null;
    const [first, last] = binsOf(spectra, band);
    let power = 0;
    for (let k = first; k <= last; k++) power += spectra.yy[k];
    return finiteOrNull(powerToDb(power));
  });
}
