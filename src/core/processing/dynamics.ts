import { convolve } from '@/core/signal/convolve';
import { fractionalTaps } from '@/core/signal/interpolation';
import { dbToAmplitude } from '@/core/signal/units';
import type { CompressorSettings, DeEsserSettings } from './settings';

const { abs, exp, log10, max, min } = Math;

/** The level from which levels are counted: the loudness clips stand at when they are processed. */
export const WORKING_LUFS = -23;
const NEPERS_PER_DB = Math.LN10 / 20;
/** Turning down by less is turning down by nothing. */
const UNHEARD_DB = 1e-5;
const DE_ESSER_ATTACK_MS = 1;
const DE_ESSER_RELEASE_MS = 40;

/** One-pole smoothing of a time constant. */
function coefficient(ms: number, sampleRateHz: number): number {
  return exp(-1 / ((ms / 1000) * sampleRateHz));
}

/** Gain computer with a soft knee (Giannoulis, Massberg & Reiss 2012, eq. 4). */
export function compressedDb(levelDb: number, thresholdDb: number, ratio: number, kneeDb: number) {
  const over = levelDb - thresholdDb;
  if (2 * over < -kneeDb) return levelDb;
  if (2 * abs(over) <= kneeDb && kneeDb > 0) {
    return levelDb + ((1 / ratio - 1) * (over + kneeDb / 2) ** 2) / (2 * kneeDb);
  }
  return thresholdDb + over / ratio;
}

/**
 * Turns channels down together by what a control says of their largest magnitude, smoothed in dB with
 * attack and release ("smooth, decoupled"; the same paper, section 4). In place.
 */
function ride(
  channels: readonly Float64Array[],
  control: (peak: number) => number,
  attack: number,
  release: number,
): void {
  const [first, ...others] = channels;
  let held = 0;
  let smooth = 0;
  for (let n = 0; n < first.length; n++) {
    let peak = abs(first[n]);
    for (const samples of others) peak = max(peak, abs(samples[n]));
    const wanted = control(peak);
    held = max(wanted, release * held + (1 - release) * wanted);
    smooth = attack * smooth + (1 - attack) * held;
    if (smooth < UNHEARD_DB) continue;
    const gain = exp(-smooth * NEPERS_PER_DB);
    first[n] *= gain;
    for (const samples of others) samples[n] *= gain;
  }
}

/** Feed-forward compressor; all channels of a clip share one control. In place. */
export function compress(
  channels: readonly Float64Array[],
  sampleRateHz: number,
  settings: CompressorSettings,
): void {
  const { thresholdDb, ratio, kneeDb, attackMs, releaseMs } = settings;
  const threshold = WORKING_LUFS + thresholdDb;
  // Below the knee nothing happens, and no logarithm is needed to know it.
  const least = dbToAmplitude(threshold - kneeDb / 2);
  ride(
    channels,
    (peak) => {
      if (peak <= least) return 0;
      const level = 20 * log10(peak);
      return level - compressedDb(level, threshold, ratio, kneeDb);
    },
    coefficient(attackMs, sampleRateHz),
    coefficient(releaseMs, sampleRateHz),
  );
}

const SPLIT_HALF_TAPS = 48;
const SPLIT_BETA = 6;

/** Turns the sibilant band down while it is strong; what lies below stays. In place. */
export function deEss(
  channels: readonly Float64Array[],
  sampleRateHz: number,
  { fromHz, thresholdDb, mostDb }: DeEsserSettings,
): void {
  // Linear phase, so that band and rest add up to the clip and neither eats into the other.
  const cutoff = min(1, fromHz / (sampleRateHz / 2));
  const taps = fractionalTaps(0, SPLIT_HALF_TAPS, SPLIT_BETA, cutoff);
  const rest = channels.map((samples) => convolve(samples, taps, SPLIT_HALF_TAPS));
  const highs = channels.map((samples, c) => {
    const high = samples.slice();
    for (let n = 0; n < high.length; n++) high[n] -= rest[c][n];
    return high;
  });
  const threshold = WORKING_LUFS + thresholdDb;
  const least = dbToAmplitude(threshold);
  ride(
    highs,
    (peak) => (peak <= least ? 0 : min(mostDb, 20 * log10(peak) - threshold)),
    coefficient(DE_ESSER_ATTACK_MS, sampleRateHz),
    coefficient(DE_ESSER_RELEASE_MS, sampleRateHz),
  );
  channels.forEach((samples, c) => {
    for (let n = 0; n < samples.length; n++) samples[n] = rest[c][n] + highs[c][n];
  });
}
