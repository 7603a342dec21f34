import { hannWindow, inverseReal, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import { readAt } from '@/core/signal/interpolation';

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

const { sqrt, pow, round, floor, min } = Math;

/**
 * Delay, polarity and sameness of a recording against a reference, in two stages: a wide search by
 * partly whitened cross-correlation (Knapp & Carter 1976) on decimated sound, then averaged cross
 * spectra of short pieces at the full rate, whose correlation is read between samples.
 * Channels are compared one by one and added.
 * @param searchS largest delay either way, in seconds
 */
export function findAlignment(
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  sampleRateHz: number,
  searchS = DEFAULT_SEARCH_S,
): Alignment {
  const factor = Math.max(1, floor(sampleRateHz / COARSE_RATE_HZ));
  const coarseRate = sampleRateHz / factor;
  const coarseOther = other.map((samples) => decimate(samples, factor));
  const coarseLength = floor(reference[0]!.length / factor);
  const longest = Math.max(coarseLength, coarseOther[0]!.length);
  const maxLag = Math.max(1, min(round(searchS * coarseRate), longest - 1));
  const wide = largestMagnitude(
    wideCorrelation(reference, factor, coarseOther, coarseRate, maxLag),
  );
  const shift = round((wide.position - maxLag) * factor);
  return fineAlignment(reference, other, shift, sampleRateHz);
}

/** Mean of each `factor` samples (twice, so that little folds back); enough for a search. */
function decimate(samples: Float64Array, factor: number): Float64Array {
  if (factor === 1) return samples;
  const out = new Float64Array(floor(samples.length / factor));
  let before = 0;
  for (let i = 0; i < out.length; i++) {
    let sum = 0;
    for (let n = i * factor; n < (i + 1) * factor; n++) sum += samples[n]!;
    out[i] = (before + sum) / (2 * factor);
    before = sum;
  }
  return out;
}

/** Every take of a set asks for the same spectra of the reference; they are kept as long as it is. */
const referenceSpectra = new WeakMap<Float64Array, Map<string, Float64Array>>();

function referenceSpectrum(
  samples: Float64Array,
  key: string,
  make: () => Float64Array,
): Float64Array {
  let kept = referenceSpectra.get(samples);
  if (!kept) referenceSpectra.set(samples, (kept = new Map<string, Float64Array>()));
  let spectrum = kept.get(key);
  if (!spectrum) kept.set(key, (spectrum = make()));
  return spectrum;
}

/** Whitened correlation for lags -maxLag … maxLag; entry maxLag is lag zero. */
function wideCorrelation(
  reference: readonly Float64Array[],
  factor: number,
  other: readonly Float64Array[],
  rateHz: number,
  maxLag: number,
): Float64Array {
  const longest = Math.max(floor(reference[0]!.length / factor), other[0]!.length);
  const size = nextPowerOfTwo(longest + maxLag + 1);
  const re = new Float64Array(size / 2 + 1);
  const im = new Float64Array(size / 2 + 1);
  for (let c = 0; c < min(reference.length, other.length); c++) {
    const known = referenceSpectrum(reference[c]!, `whole ${factor} ${size}`, () =>
      spectrumOf(decimate(reference[c]!, factor), size),
    );
    addCross(known, spectrumOf(other[c]!, size), re, im);
  }
  const full = whitenedCorrelation(re, im, rateHz);
  const lags = new Float64Array(2 * maxLag + 1);
  for (let lag = -maxLag; lag <= maxLag; lag++) lags[lag + maxLag] = full[(lag + size) % size]!;
  return lags;
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
  for (let k = 1; k < size / 2; k++) {
    if (k < lowest || k > highest) continue;
    const magnitude = sqrt(re[k]! * re[k]! + im[k]! * im[k]!);
    if (magnitude === 0) continue;
    const weight = pow(magnitude, -WHITENING);
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
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  shift: number,
  sampleRateHz: number,
): Alignment {
  const from = Math.max(0, -shift);
  const to = min(reference[0]!.length, other[0]!.length - shift);
  const size = min(
    nextPowerOfTwo(sampleRateHz / 12),
    nextPowerOfTwo(Math.max(1, to - from) / FEWEST_SEGMENTS),
  );
  if (size < 32) return { delaySamples: shift, polarityInverted: false, coherence: 0 };
  const window = hannWindow(size);
  const bins = size / 2 + 1;
  // Pieces lie on a grid of the reference whatever the shift, so that their spectra serve all takes.
  let hop = size / 2;
  while ((to - from) / hop > MOST_SEGMENTS) hop *= 2;
  const first = hop * Math.ceil(from / hop);
  const piece = (samples: Float64Array, at: number) => {
    const out = new Float64Array(size);
    for (let n = 0; n < size; n++) out[n] = window[n]! * samples[at + n]!;
    return spectrumOf(out, size);
  };
  const sumRe = new Float64Array(bins);
  const sumIm = new Float64Array(bins);
  let weighted = 0;
  let weights = 0;
  for (let c = 0; c < min(reference.length, other.length); c++) {
    const powerA = new Float64Array(bins);
    const powerB = new Float64Array(bins);
    const re = new Float64Array(bins);
    const im = new Float64Array(bins);
    for (let at = first; at + size <= to; at += hop) {
      const a = referenceSpectrum(reference[c]!, `piece ${size} ${at}`, () =>
        piece(reference[c]!, at),
      );
      const b = piece(other[c]!, at + shift);
      addCross(a, b, re, im);
      for (let k = 0; k < bins; k++) {
        powerA[k]! += a[2 * k]! ** 2 + a[2 * k + 1]! ** 2;
        powerB[k]! += b[2 * k]! ** 2 + b[2 * k + 1]! ** 2;
      }
    }
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
