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
  return spectraOfAll(reference, [other], sampleRateHz, shift)[0];
}

/** As `averagedSpectra` for several others at once, over the stretch that all have in common. */
export function spectraOfAll(
  reference: readonly Float64Array[],
  others: readonly (readonly Float64Array[])[],
  sampleRateHz: number,
  shift = 0,
): Spectra[] {
  const from = max(0, -shift);
  const to = min(reference[0].length, ...others.map(([first]) => first.length - shift));
  const wanted = nextPowerOfTwo(PIECE_S * sampleRateHz);
  const size = max(64, min(wanted, nextPowerOfTwo(max(1, (to - from) / FEWEST_PIECES))));
  const bins = size / 2 + 1;
  const window = hannWindow(size);
  const windowPower = window.reduce((sum, w) => sum + w * w, 0);
  const hop = max(size / 2, floor((to - from - size) / MOST_PIECES));
  const sounds = [{ channels: reference, late: 0 }].concat(
    others.map((channels) => ({ channels, late: shift })),
  );
  const count = min(...sounds.map(({ channels }) => channels.length));
  const made = sounds.map(() => new Float64Array(2 * bins));
  const sums = others.map(() => ({
    yy: new Float64Array(bins),
    re: new Float64Array(bins),
    im: new Float64Array(bins),
  }));
  const xx = new Float64Array(bins);
  const both = new Float64Array(2 * size);
  const out = new Float64Array(2 * size);
  let pieces = 0;
  for (let at = from; at + size <= to || pieces === 0; at += hop) {
    const held = max(0, min(size, to - at));
    for (let c = 0; c < count; c++) {
      // Two real signals go through one complex transform, as its real and imaginary part.
      for (let i = 0; i < sounds.length; i += 2) {
        const two = sounds.slice(i, i + 2);
        both.fill(0);
        two.forEach(({ channels, late }, part) => {
          const samples = channels[c];
          for (let n = 0; n < held; n++) both[2 * n + part] = window[n] * samples[at + late + n];
        });
        complexTransform(out, both, 'forward');
        separate(out, made[i], made.at(i + 1) ?? null);
      }
      const x = made[0];
      for (let k = 0; k < bins; k++) xx[k] += x[2 * k] ** 2 + x[2 * k + 1] ** 2;
      sums.forEach(({ yy, re, im }, i) => addCross(x, made[i + 1], yy, re, im));
    }
    pieces++;
  }
  for (let k = 0; k < bins; k++) {
    const twice = k === 0 || k === size / 2 ? 1 : 2;
    const scale = twice / (size * windowPower * pieces * count);
    xx[k] *= scale;
    for (const { yy, re, im } of sums) {
      yy[k] *= scale;
      re[k] *= scale;
      im[k] *= scale;
    }
  }
  return sums.map((sum) => ({ sampleRateHz, size, xx, ...sum }));
}

/** The spectra of two real signals out of the transform of one + i·other; bins 0 … size/2. */
function separate(both: Float64Array, one: Float64Array, other: Float64Array | null): void {
  const size = both.length / 2;
  for (let k = 0; k <= size / 2; k++) {
    const mirror = 2 * ((size - k) % size);
    const ur = both[2 * k];
    const ui = both[2 * k + 1];
    const vr = both[mirror];
    const vi = both[mirror + 1];
    one[2 * k] = (ur + vr) / 2;
    one[2 * k + 1] = (ui - vi) / 2;
    if (!other) continue;
    other[2 * k] = (ui + vi) / 2;
    other[2 * k + 1] = (vr - ur) / 2;
  }
}

function addCross(
  x: Float64Array,
  y: Float64Array,
  yy: Float64Array,
  re: Float64Array,
  im: Float64Array,
): void {
  for (let k = 0; k < yy.length; k++) {
    const ar = x[2 * k];
    const ai = x[2 * k + 1];
    const br = y[2 * k];
    const bi = y[2 * k + 1];
    yy[k] += br * br + bi * bi;
    re[k] += ar * br + ai * bi;
    im[k] += ar * bi - ai * br;
  }
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
