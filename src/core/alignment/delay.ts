import { hannWindow, inverseReal, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import { readAt } from '@/core/signal/interpolation';
import { blockOf, framesOf, type Sound } from '@/core/signal/sound';

/** How one recording lies in time against a reference. */
export interface Alignment {
  /** Positive: late against the reference; fractional. */
  delaySamples: number;
  polarityInverted: boolean;
  /** 0 … 1: how much of the energy is the same performance, after alignment (coherence). */
  coherence: number;
}

/** Below this, two recordings do not look like the same performance. */
export const SAME_PERFORMANCE_COHERENCE = 0.35;

export const DEFAULT_SEARCH_S = 5;
/** 1 would weigh every frequency alike, 0 would follow the loudest; between is robust for both. */
const WHITENING = 0.7;
const LOWEST_HZ = 40;
const HIGHEST_HZ = 16000;
/** The wide search runs at about this rate; the fine one at the full rate. */
const COARSE_RATE_HZ = 6000;
/** Averaged pieces of the fine stage; more would add time, not certainty. */
const MOST_SEGMENTS = 80;
const FEWEST_SEGMENTS = 15;
const FINE_STEPS = 32;

const { ceil, exp, floor, log, max, min, round, sqrt } = Math;

/** Coarse samples that are transformed at a time; longer recordings are searched piece by piece. */
const WIDE_SAMPLES = 1 << 20;
/** Coarse samples that are made at a time. */
const COARSE_BLOCK = 256;

/**
 * Delay, polarity and sameness of a recording against a reference, in two stages: a wide search by
 * partly whitened cross-correlation (Knapp & Carter 1976) on decimated sound, then averaged cross
 * spectra of short pieces at the full rate, whose correlation is read between samples.
 * Channels are compared one by one and added. Neither recording is held in memory.
 * @param searchS largest delay either way, in seconds
 */
export function findAlignment(
  reference: Sound,
  other: Sound,
  sampleRateHz: number,
  searchS = DEFAULT_SEARCH_S,
): Alignment {
  const factor = max(1, floor(sampleRateHz / COARSE_RATE_HZ));
  const coarseRate = sampleRateHz / factor;
  const longest = floor(max(reference.frames, other.frames) / factor);
  const maxLag = max(1, min(round(searchS * coarseRate), longest - 1));
  const wide = largestMagnitude(wideCorrelation(reference, other, factor, maxLag, coarseRate));
  const shift = round((wide.position - maxLag) * factor);
  return fineAlignment(reference, other, shift, sampleRateHz);
}

/** Means of each `factor` samples (twice, so that little folds back) of every channel; enough for a search. */
function coarse(sound: Sound, factor: number, from: number, count: number): Float64Array[] {
  if (factor === 1) return framesOf(sound, from, count);
  const out = blockOf(sound.channels, count);
  const room = blockOf(sound.channels, factor * COARSE_BLOCK);
  const before = framesOf(sound, (from - 1) * factor, factor).map(total);
  for (let at = 0; at < count; at += COARSE_BLOCK) {
    sound.read((from + at) * factor, room);
    for (const [c, samples] of room.entries()) {
      const means = out[c]!;
      for (let i = at; i < min(at + COARSE_BLOCK, count); i++) {
        let sum = 0;
        for (let n = (i - at) * factor; n < (i - at + 1) * factor; n++) sum += samples[n]!;
        means[i] = (before[c]! + sum) / (2 * factor);
        before[c] = sum;
      }
    }
  }
  return out;
}

const total = (samples: Float64Array) => samples.reduce((sum, x) => sum + x, 0);

/** Every take of a set asks for the same spectra of the reference; they are kept as long as it is. */
const referenceSpectra = new WeakMap<Sound, Map<string, Float64Array[]>>();

/** @param make the spectra of all channels */
function referenceSpectrum(sound: Sound, key: string, make: () => Float64Array[]): Float64Array[] {
  let kept = referenceSpectra.get(sound);
  if (!kept) referenceSpectra.set(sound, (kept = new Map<string, Float64Array[]>()));
  let spectra = kept.get(key);
  if (!spectra) kept.set(key, (spectra = make()));
  return spectra;
}

/** Whitened correlation for lags -maxLag … maxLag; entry maxLag is lag zero. */
function wideCorrelation(
  reference: Sound,
  other: Sound,
  factor: number,
  maxLag: number,
  rateHz: number,
): Float64Array {
  const [own, others] = [floor(reference.frames / factor), floor(other.frames / factor)];
  const whole = nextPowerOfTwo(max(own, others) + maxLag + 1);
  const lags = new Float64Array(2 * maxLag + 1);
  if (whole <= WIDE_SAMPLES) {
    const re = new Float64Array(whole / 2 + 1);
    const im = new Float64Array(whole / 2 + 1);
    const known = referenceSpectrum(reference, `whole ${factor} ${whole}`, () =>
      coarse(reference, factor, 0, own).map((samples) => spectrumOf(samples, whole)),
    );
    for (const [c, samples] of coarse(other, factor, 0, others).entries()) {
      if (c < known.length) addCross(known[c]!, spectrumOf(samples, whole), re, im);
    }
    const full = whitenedCorrelation(re, im, rateHz);
    for (let lag = -maxLag; lag <= maxLag; lag++) lags[lag + maxLag] = full[(lag + whole) % whole]!;
    return lags;
  }
  // A stretch of the reference meets all of the other that may belong to it; their cross spectra are added.
  const size = max(WIDE_SAMPLES, nextPowerOfTwo(4 * maxLag));
  const step = size - 2 * maxLag;
  const re = new Float64Array(size / 2 + 1);
  const im = new Float64Array(size / 2 + 1);
  for (let from = 0; from < own; from += step) {
    const stretch = coarse(reference, factor, from, min(step, own - from));
    const around = coarse(other, factor, from - maxLag, size);
    for (let c = 0; c < min(stretch.length, around.length); c++) {
      addCross(spectrumOf(stretch[c]!, size), spectrumOf(around[c]!, size), re, im);
    }
  }
  return whitenedCorrelation(re, im, rateHz).subarray(0, lags.length);
}

/** Adds conj(a)·b for bins 0 … size/2. */
function addCross(a: Float64Array, b: Float64Array, re: Float64Array, im: Float64Array): void {
  for (let k = 0; k < re.length; k++) {
    re[k]! += a[2 * k]! * b[2 * k]! + a[2 * k + 1]! * b[2 * k + 1]!;
    im[k]! += a[2 * k]! * b[2 * k + 1]! - a[2 * k + 1]! * b[2 * k]!;
  }
}

/** Correlation over all lags (circular) of a cross spectrum, band-limited and partly whitened. */
function whitenedCorrelation(re: Float64Array, im: Float64Array, rateHz: number): Float64Array {
  const size = 2 * (re.length - 1);
  const lowest = (LOWEST_HZ * size) / rateHz;
  const highest = (min(HIGHEST_HZ, 0.45 * rateHz) * size) / rateHz;
  const cross = new Float64Array(size + 2);
  for (let k = max(1, ceil(lowest)); k < size / 2 && k <= highest; k++) {
    const power = re[k]! * re[k]! + im[k]! * im[k]!;
    if (power === 0) continue;
    // The magnitude to that power; a logarithm and an exponential take half the time of pow.
    const weight = exp((-WHITENING / 2) * log(power));
    cross[2 * k] = re[k]! * weight;
    cross[2 * k + 1] = im[k]! * weight;
  }
  return inverseReal(cross);
}

/** Position (between samples) and value of the largest magnitude. */
function largestMagnitude(values: Float64Array): { position: number; value: number } {
  let peak = 0;
  for (let i = 1; i < values.length; i++) {
    const [now, best] = [values[i]!, values[peak]!];
    if (now * now > best * best) peak = i;
  }
  const sign = values[peak]! < 0 ? -1 : 1;
  const near = (offset: number) => sign * readAt(values, peak + offset, 1)[0]!;
  let best = 0;
  let bestValue = near(0);
  for (let step = -FINE_STEPS; step <= FINE_STEPS; step++) {
    const value = near(step / FINE_STEPS);
    if (value > bestValue) [best, bestValue] = [step, value];
  }
  const [before, after] = [near((best - 1) / FINE_STEPS), near((best + 1) / FINE_STEPS)];
  const bend = before - 2 * bestValue + after;
  const vertex = bend < 0 ? (0.5 * (before - after)) / bend : 0;
  return { position: peak + (best + vertex) / FINE_STEPS, value: sign * bestValue };
}

/**
 * Cross spectra of Hann-windowed pieces, averaged (Welch 1967), after shifting by whole samples.
 * Their correlation gives the rest of the delay and the polarity; their magnitude-squared coherence,
 * averaged with the cross power as weight, tells whether it is the same performance: two
 * performances of the same notes read near zero.
 */
function fineAlignment(
  reference: Sound,
  other: Sound,
  shift: number,
  sampleRateHz: number,
): Alignment {
  const from = max(0, -shift);
  const to = min(reference.frames, other.frames - shift);
  const size = min(
    nextPowerOfTwo(sampleRateHz / 12),
    nextPowerOfTwo(max(1, to - from) / FEWEST_SEGMENTS),
  );
  if (size < 32) return { delaySamples: shift, polarityInverted: false, coherence: 0 };
  const window = hannWindow(size);
  const bins = size / 2 + 1;
  // Pieces lie on a grid of the reference whatever the shift, so that their spectra serve all takes.
  let hop = size / 2;
  while ((to - from) / hop > MOST_SEGMENTS) hop *= 2;
  const first = hop * ceil(from / hop);
  const pieces = (sound: Sound, at: number) =>
    framesOf(sound, at, size).map((samples) => {
      for (let n = 0; n < size; n++) samples[n]! *= window[n]!;
      return spectrumOf(samples, size);
    });
  const sums = Array.from({ length: min(reference.channels, other.channels) }, () => ({
    powerA: new Float64Array(bins),
    powerB: new Float64Array(bins),
    re: new Float64Array(bins),
    im: new Float64Array(bins),
  }));
  for (let at = first; at + size <= to; at += hop) {
    const own = referenceSpectrum(reference, `piece ${size} ${at}`, () => pieces(reference, at));
    const others = pieces(other, at + shift);
    for (const [c, { powerA, powerB, re, im }] of sums.entries()) {
      const [a, b] = [own[c]!, others[c]!];
      addCross(a, b, re, im);
      for (let k = 0; k < bins; k++) {
        powerA[k]! += a[2 * k]! ** 2 + a[2 * k + 1]! ** 2;
        powerB[k]! += b[2 * k]! ** 2 + b[2 * k + 1]! ** 2;
      }
    }
  }
  const sumRe = new Float64Array(bins);
  const sumIm = new Float64Array(bins);
  let weighted = 0;
  let weights = 0;
  for (const { powerA, powerB, re, im } of sums) {
    for (let k = 1; k < bins; k++) {
      sumRe[k]! += re[k]!;
      sumIm[k]! += im[k]!;
      const scale = sqrt(powerA[k]! * powerB[k]!);
      if (scale === 0) continue;
      weighted += (re[k]! ** 2 + im[k]! ** 2) / scale;
      weights += scale;
    }
  }
  const circular = whitenedCorrelation(sumRe, sumIm, sampleRateHz);
  const centred = new Float64Array(size);
  for (let n = 0; n < size; n++) centred[n] = circular[(n + size / 2) % size]!;
  const { position, value } = largestMagnitude(centred);
  return {
    delaySamples: shift + position - size / 2,
    polarityInverted: value < 0,
    coherence: weights > 0 ? weighted / weights : 0,
  };
}
