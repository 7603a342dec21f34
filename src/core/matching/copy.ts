import { LoudnessMeter } from '@/core/loudness/loudness-meter';
import { readAt } from '@/core/signal/interpolation';
import { Random, type SecretSeed } from '@/core/signal/random';
import type { Sound } from '@/core/signal/sound';
import { dbToAmplitude } from '@/core/signal/units';
import type { FloatClip } from '@/core/wav/float-clip';
import { plainBytes, plainHeader } from '@/core/wav/write';
import { MatchError } from './align';
import { heardFormat, roundSound } from './rounded';

/** No clip heard by name may be further from the common loudness. */
const LARGEST_RESIDUAL_LU = 0.05;
/** No copy may be further from the level that was drawn for it, which lies within 0.04 dB of the common one. */
const LARGEST_COPY_RESIDUAL_LU = 0.01;
/** How near a copy comes to the level that was drawn for it. */
const SETTLED_LU = 0.005;
/** What the stretch itself may change of a copy's loudness, and is made good; more is a fault. */
const CORRECTABLE_LU = 0.3;
/** Copies stand this far under the level of their set, and up to as far to either side of that. */
export const COPY_GAIN_DB = 0.02;
/** How far into the clip a copy may begin; all copies of a set are shorter by it. */
const GUARD_S = 0.02;
/** Fades of a copy at its own ends. */
const FADE_S = 0.005;
/** Readings between samples reach as far to either side. */
const REACH = 24;

/** What one copy is drawn from: the first seed is shared by all clips of its trial, the second is its own. */
export interface CopySeeds {
  trial: SecretSeed;
  clip: SecretSeed;
}

/** What makes a copy differ from every other of the same clip, so that no simple comparison finds them. */
interface Draw {
  /** Where in the clip it begins, in samples; with a fraction. */
  startFrames: number;
  gainDb: number;
}

const guardFrames = (sampleRateHz: number, frames: number) =>
  Math.min(Math.round(GUARD_S * sampleRateHz), Math.floor(frames / 20));

/** All clips of a trial begin at the same place, so that they stay in step; each has a gain of its own. */
function draw({ trial, clip }: CopySeeds, guard: number): Draw {
  const spread = 2 * Random.secret(clip).uniform() - 1;
  return {
    startFrames: guard * Random.secret(trial).uniform(),
    gainDb: COPY_GAIN_DB * (spread - 1),
  };
}

/** A stretch of a clip from a place between its samples on, faded in and out. */
function stretchOf(clip: Sound, startFrames: number, frames: number, fade: number): Sound {
  const { channels } = clip;
  const whole = Math.floor(startFrames);
  const fraction = startFrames - whole;
  const weightOf = (n: number) => 0.5 - 0.5 * Math.cos((Math.PI * (n + 0.5)) / fade);
  return {
    channels,
    frames,
    read(from, into) {
      const { length } = into[0]!;
      const wide = Array.from({ length: channels }, () => new Float64Array(length + 2 * REACH));
      clip.read(whole + from - REACH, wide);
      for (const [c, out] of into.entries()) {
        out.set(readAt(wide[c]!, REACH + fraction, length));
        for (let n = from; n < Math.min(fade, from + length); n++) out[n - from]! *= weightOf(n);
        for (let n = Math.max(from, frames - fade); n < from + length; n++) {
          out[n - from]! *= weightOf(frames - 1 - n);
        }
      }
    },
  };
}

/** How far a copy may be off its level before it is made good, or refused. */
function mostOff(drawn: boolean, corrected: boolean): number {
  if (!drawn) return LARGEST_RESIDUAL_LU;
  return corrected ? LARGEST_COPY_RESIDUAL_LU : SETTLED_LU;
}

/** What a copy is made for. */
export interface CopyPlan {
  /** Null for whoever hears by name: the clip as it is. */
  seeds: CopySeeds | null;
  /** What the copy must read, null when no loudness was matched. */
  levelLufs: number | null;
  /** Added to the master; only a control that asks who follows loudness has any. */
  gainDb: number;
}

/**
 * A copy of a clip for one listener and trial: a WAV of 24 bits, measured on those bytes. No two copies of a clip
 * are alike: each begins at another place within a guard of 20 ms, between two samples (the same for all clips
 * of its trial), is up to 0.02 dB louder or softer, and has dither of its own. Peaks were verified when the set
 * was made, and no copy is louder than its clip was; here only loudness is asked.
 * @param master the clip as it was matched, gain applied
 * @param memory gives room for so many bytes, which may hold anything; new memory by default
 * @throws MatchError when the bytes are not as loud as the rest of the set
 */
export function servedCopy(
  master: FloatClip,
  { seeds, levelLufs, gainDb }: CopyPlan,
  memory: (bytes: number) => Uint8Array = (bytes) => new Uint8Array(bytes),
): Uint8Array {
  const { channels, sampleRateHz } = master;
  const format = heardFormat(channels, sampleRateHz);
  const guard = seeds ? guardFrames(sampleRateHz, master.frames) : 0;
  const frames = master.frames - guard;
  const { startFrames, gainDb: own } = seeds ? draw(seeds, guard) : { startFrames: 0, gainDb: 0 };
  const sound = seeds
    ? stretchOf(master, startFrames, frames, Math.round(FADE_S * sampleRateHz))
    : master;
  const bytes = memory(plainBytes(channels, frames, 24));
  plainHeader(bytes, channels, frames, sampleRateHz, 24);
  const dither = seeds?.clip ?? 1;
  if (levelLufs === null) {
    roundSound(sound, format, dbToAmplitude(gainDb + own), dither, { into: bytes });
    return bytes;
  }
  const wanted = levelLufs + gainDb + own;
  let correction = 0;
  for (;;) {
    const meter = new LoudnessMeter(format);
    const gain = dbToAmplitude(gainDb + own + correction);
    roundSound(sound, format, gain, dither, { into: bytes, onRead: (read) => meter.push(read) });
    const { integratedLufs } = meter.finish();
    const residual = integratedLufs === null ? Infinity : integratedLufs - wanted;
    const off = Math.abs(residual);
    if (off <= mostOff(seeds !== null, correction !== 0)) return bytes;
    // A stretch of a short clip, or of one that reaches up to half the sample rate, may weigh that much less.
    if (correction !== 0 || !seeds || off > CORRECTABLE_LU) {
      throw new MatchError('a copy is not as loud as the rest of its set; it was not sent');
    }
    correction = -residual;
  }
}
