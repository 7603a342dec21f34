import { hannWindow, nextPowerOfTwo, transformReal } from '@/core/signal/fft';
import { blockOf, firstOf, type Sound, soundOf } from '@/core/signal/sound';
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
/** Enough for a clip: it is heard whole, and a third at 25 Hz is known to 0.4 dB (one deviation). */
const MOST_PIECES_OF_CLIP = 50;

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
  return spectraOfAll(soundOf(reference), [soundOf(other)], sampleRateHz, shift)[0]!;
}

/**
 * As `averagedSpectra` for several others at once, over the stretch that all have in common.
 * @param mostPieces pieces that count at most; they lie evenly over the stretch
 */
export function spectraOfAll(
  reference: Sound,
  others: readonly Sound[],
  sampleRateHz: number,
  shift = 0,
  mostPieces = MOST_PIECES,
): Spectra[] {
  const from = max(0, -shift);
  const to = min(reference.frames, ...others.map(({ frames }) => frames - shift));
  const wanted = nextPowerOfTwo(PIECE_S * sampleRateHz);
  const size = max(64, min(wanted, nextPowerOfTwo(max(1, (to - from) / FEWEST_PIECES))));
  const bins = size / 2 + 1;
  const window = hannWindow(size);
  const windowPower = window.reduce((sum, w) => sum + w * w, 0);
  const hop = max(size / 2, floor((to - from - size) / mostPieces));
  // The reference among the others need not be transformed again.
  const itself = (sound: Sound) => shift === 0 && sound === reference;
  const apart = others.filter((sound) => !itself(sound));
  const sounds = [{ sound: reference, late: 0 }].concat(
    apart.map((sound) => ({ sound, late: shift })),
  );
  const count = min(...sounds.map(({ sound }) => sound.channels));
  const made = sounds.map(() => new Float64Array(2 * bins));
  const ofOther = others.map((sound) => made[itself(sound) ? 0 : 1 + apart.indexOf(sound)]);
  const sums = others.map(() => ({
    yy: new Float64Array(bins),
    re: new Float64Array(bins),
    im: new Float64Array(bins),
  }));
  const xx = new Float64Array(bins);
  const cut = new Float64Array(size);
  const held = sounds.map(() => blockOf(count, size));
  let pieces = 0;
  for (let at = from; at + size <= to || pieces === 0; at += hop) {
    const length = max(0, min(size, to - at));
    sounds.forEach(({ sound, late }, i) => sound.read(at + late, firstOf(held[i]!, length)));
    for (let c = 0; c < count; c++) {
      for (const [i, spectrum] of made.entries()) {
        const samples = held[i]![c]!;
        for (let n = 0; n < length; n++) cut[n] = window[n]! * samples[n]!;
        transformReal(spectrum, cut);
      }
      addPower(made[0]!, xx);
      sums.forEach(({ yy, re, im }, i) => {
        addPower(ofOther[i]!, yy);
        addCross(made[0]!, ofOther[i]!, re, im);
      });
    }
    pieces++;
  }
  for (let k = 0; k < bins; k++) {
    const twice = k === 0 || k === size / 2 ? 1 : 2;
    const scale = twice / (size * windowPower * pieces * count);
    xx[k]! *= scale;
    for (const { yy, re, im } of sums) {
      yy[k]! *= scale;
      re[k]! *= scale;
      im[k]! *= scale;
    }
  }
  return sums.map((sum) => ({ sampleRateHz, size, xx, ...sum }));
}

/** Spectra of the clips of a set, which lie on each other, against one of them. */
export function spectraOfClips(
  reference: Sound,
  clips: readonly Sound[],
  sampleRateHz: number,
): Spectra[] {
  return spectraOfAll(reference, clips, sampleRateHz, 0, MOST_PIECES_OF_CLIP);
}

function addPower(x: Float64Array, xx: Float64Array): void {
  for (let k = 0; k < xx.length; k++)
    xx[k]! += x[2 * k]! * x[2 * k]! + x[2 * k + 1]! * x[2 * k + 1]!;
}

function addCross(x: Float64Array, y: Float64Array, re: Float64Array, im: Float64Array): void {
  for (let k = 0; k < re.length; k++) {
    const ar = x[2 * k]!;
    const ai = x[2 * k + 1]!;
    const br = y[2 * k]!;
    const bi = y[2 * k + 1]!;
    re[k]! += ar * br + ai * bi;
    im[k]! += ar * bi - ai * br;
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
    for (let k = first; k <= last; k++) power += spectra.yy[k]!;
    return finiteOrNull(powerToDb(power));
  });
}
