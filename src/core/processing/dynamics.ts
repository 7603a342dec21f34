import { convolver, delayLine } from '@/core/signal/convolve';
import { toDecibels, toReducingGains } from '@/core/signal/decibels';
import { fractionalTaps } from '@/core/signal/interpolation';
import { BLOCK_FRAMES, blockOf, firstOf } from '@/core/signal/sound';
import type { Stage } from '@/core/signal/stage';
import type { CompressorSettings, DeEsserSettings } from './settings';

const { abs, exp, max, min } = Math;

/** The level from which levels are counted: the loudness clips stand at when they are processed. */
export const WORKING_LUFS = -23;
/** Turning down by less is turning down by nothing. */
const UNHEARD_DB = 1e-9;
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
 * Turns channels down together by what a control makes of their largest magnitudes, smoothed in dB with
 * attack and release ("smooth, decoupled"; the same paper, section 4). In place, block after block.
 * @param control turns magnitudes into wanted reductions in dB, in place
 */
function rider(control: (magnitudes: Float64Array) => void, attack: number, release: number) {
  const room = new Float64Array(BLOCK_FRAMES);
  const state = { held: 0, smooth: 0 };
  return (block: readonly Float64Array[]): void => {
    const gains = room.subarray(0, block[0]!.length);
    largestOf(block, gains);
    control(gains);
    smoothInPlace(gains, state, attack, release);
    toReducingGains(gains);
    for (const samples of block) {
      for (let n = 0; n < samples.length; n++) samples[n]! *= gains[n]!;
    }
  };
}

function largestOf(block: readonly Float64Array[], out: Float64Array): void {
  out.fill(0);
  for (const samples of block) {
    for (let n = 0; n < out.length; n++) out[n] = max(out[n]!, abs(samples[n]!));
  }
}

function smoothInPlace(
  wanted: Float64Array,
  state: { held: number; smooth: number },
  attack: number,
  release: number,
): void {
  let { held, smooth } = state;
  for (let n = 0; n < wanted.length; n++) {
    held = max(wanted[n]!, release * held + (1 - release) * wanted[n]!);
    smooth = attack * smooth + (1 - attack) * held;
    wanted[n] = smooth;
  }
  // In silence both would become denormal numbers, which are very slow.
  state.held = held < UNHEARD_DB ? 0 : held;
  state.smooth = smooth < UNHEARD_DB ? 0 : smooth;
}

/** Feed-forward compressor; all channels of a clip share one control. */
export function compressor(sampleRateHz: number, settings: CompressorSettings): Stage {
  const { thresholdDb, ratio, kneeDb, attackMs, releaseMs } = settings;
  const threshold = WORKING_LUFS + thresholdDb;
  const control = (levels: Float64Array) => {
    toDecibels(levels);
    for (let n = 0; n < levels.length; n++) {
      levels[n]! -= compressedDb(levels[n]!, threshold, ratio, kneeDb);
    }
  };
  const [attack, release] = [attackMs, releaseMs].map((ms) => coefficient(ms, sampleRateHz)) as [
    number,
    number,
  ];
  return { latency: 0, run: rider(control, attack, release) };
}

const SPLIT_HALF_TAPS = 48;
const SPLIT_BETA = 6;

/** Turns the sibilant band down while it is strong; what lies below stays. */
export function deEsser(
  channels: number,
  sampleRateHz: number,
  { fromHz, thresholdDb, mostDb }: DeEsserSettings,
): Stage {
  // Linear phase, so that band and rest add up to the clip and neither eats into the other.
  const cutoff = min(1, fromHz / (sampleRateHz / 2));
  const taps = fractionalTaps(0, SPLIT_HALF_TAPS, SPLIT_BETA, cutoff);
  // Of the taps of a whole fraction the last weighs nothing: the middle is the one before the half.
  const split = convolver(channels, taps, SPLIT_HALF_TAPS - 1);
  const asLate = delayLine(channels, split.latency);
  const threshold = WORKING_LUFS + thresholdDb;
  const control = (levels: Float64Array) => {
    toDecibels(levels);
    for (let n = 0; n < levels.length; n++) {
      const over = levels[n]! - threshold;
      levels[n] = over < 0 ? 0 : over < mostDb ? over : mostDb;
    }
  };
  const ride = rider(
    control,
    coefficient(DE_ESSER_ATTACK_MS, sampleRateHz),
    coefficient(DE_ESSER_RELEASE_MS, sampleRateHz),
  );
  const room = blockOf(channels);
  return {
    latency: split.latency,
    run: (block) => {
      const rest = firstOf(room, block[0]!.length);
      rest.forEach((samples, c) => samples.set(block[c]!));
      split.run(rest);
      asLate.run(block);
      for (const [c, samples] of block.entries()) {
        const low = rest[c]!;
        for (let n = 0; n < samples.length; n++) samples[n]! -= low[n]!;
      }
      ride(block);
      for (const [c, samples] of block.entries()) {
        const low = rest[c]!;
        for (let n = 0; n < samples.length; n++) samples[n]! += low[n]!;
      }
    },
  };
}
