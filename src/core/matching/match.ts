import { Meter, type Measurement, truePeakOf } from '@/core/loudness/meter';
import { LARGEST_GAIN } from '@/core/loudness/true-peak';
import type { Sound, WritableSound } from '@/core/signal/sound';
import { amplifier, type Stage, throughStages } from '@/core/signal/stage';
import { amplitudeToDb, dbToAmplitude, finiteOrNull } from '@/core/signal/units';
import {
  alignAll,
  type AlignedClip,
  type AlignTake,
  type BlendFacts,
  MatchError,
  type Placement,
  type RoomFor,
} from './align';
import { type MatchMethod, SAME_GAIN_MOST_LUFS } from './methods';
import { heardFormat, roundSound } from './rounded';

/**
 * What a set goes through in a context, after alignment and before the match.
 * @param reference index of the clip that sets the time
 * @returns the stages of the clip of an index, made anew for each call
 */
export type Process = (
  clips: readonly AlignedClip[],
  reference: number,
) => (index: number) => Stage[];

export interface MatchTake {
  /** Name for messages. */
  name: string;
  /** Offset by hand, dB over the common loudness; counts for that method only. */
  offsetDb?: number;
  /** Gain that the take was recorded at, dB; for that method, which needs it of every take. */
  recordedGainDb?: number;
  /** Loudness of the test sound that its chain recorded at the same gain, LUFS; for that method. */
  testLufs?: number;
  /** By how much it stands off the common level on purpose, dB, whatever the method. */
  onPurposeDb?: number;
}

export interface MatchPlan {
  sampleRateHz: number;
  takes: readonly MatchTake[];
  /** Index of the take that sets the time. */
  reference: number;
  method: MatchMethod;
  /** Wanted common loudness or level; the loudest that keeps the headroom when absent. */
  targetLufs?: number;
  fadeS: number;
  process?: Process;
  seed: number;
}

/** What it takes to make a set out of takes. */
export interface TakesPlan extends MatchPlan {
  takes: readonly (AlignTake & MatchTake)[];
  /** The passage in samples of the reference; the whole of it when absent. */
  passage?: { from: number; to: number };
}

export interface MatchedClip<Clip extends Sound = Sound> extends Placement {
  name: string;
  /** After the gain, before rounding: what every copy is dithered from. */
  sound: Clip;
  blend: BlendFacts | null;
  gainDb: number;
  /** Null where it is too quiet or too short to have a loudness, which not every method needs. */
  beforeLufs: number | null;
  beforeRmsDbfs: number | null;
  /** Measured on the 24-bit bytes; null as above. */
  afterLufs: number | null;
  /** Of the bytes; at most 0.0001 dB too high. */
  truePeakDbtp: number;
  /** Method's own level on the bytes minus the target. */
  residualLu: number;
  /** With this dither the sound gives the very 24-bit bytes that were measured (`roundedWav`). */
  ditherSeed: number;
}

export interface MatchResult<Clip extends Sound = Sound> {
  targetLufs: number;
  /** The clip whose peak sets the common level; null when the target was given, or what is safe to hear sets it. */
  limitedBy: string | null;
  clips: MatchedClip<Clip>[];
  worstResidualLu: number;
}

const { abs, max, min, round } = Math;

export const CEILING_DBTP = -1;
/** Room for dither and rounding below the ceiling. */
const CEILING_MARGIN_DB = 0.005;
/** By how much K-weighted sound can be louder than its mean square, dB: the shelf of BS.1770 less its offset. */
const MOST_WEIGHTING_DB = 4 - 0.691;
const SETTLED_LU = 0.002;
const MAX_ROUNDS = 8;

type Levelled = Omit<MatchedClip, 'sound'>;

interface Prepared<Clip extends Sound = Sound> {
  take: MatchTake;
  aligned: AlignedClip;
  sound: Clip;
  before: Measurement;
}

/**
 * Makes a set of clips out of takes: align, correct polarity, cut, and match.
 * @param onProgress told the share that is done, 0 … 1
 * @throws MatchError when a take is unrelated, silent, too short, has no tone, or the target clips
 */
export async function matchClips<Room extends WritableSound>(
  plan: TakesPlan,
  roomFor: RoomFor<Room>,
  onProgress?: (share: number) => void,
): Promise<MatchResult<Room>> {
  const asked = {
    withTone: plan.method === 'tone',
    withLoudness: plan.process !== undefined,
  };
  const clips = await alignAll({ ...plan, ...asked }, roomFor, (share) =>
    onProgress?.(0.4 * share),
  );
  // Nobody else wants the aligned clips: where nothing stands before the passage they are worked on in place.
  const place = (index: number) => {
    const { sound, lead } = clips[index]!;
    return lead === 0 ? sound : roomFor(sound.channels, sound.frames - lead);
  };
  return matchAligned(plan, clips, place, (share) => onProgress?.(0.4 + 0.6 * share));
}

/**
 * Makes a set of aligned clips: process, fade, bring to a common level with one gain each (no limiter;
 * no true peak over -1 dBTP), write 24 bits with dither, and measure those bytes. All of it goes block
 * by block.
 * @param placeFor room for the clip of an index, without its lead; the aligned sound itself may be written over
 * @param onProgress told the share that is done, 0 … 1
 * @throws MatchError when a clip is silent or too short, or the target clips
 */
export function matchAligned<Room extends WritableSound>(
  plan: MatchPlan,
  aligned: readonly AlignedClip[],
  placeFor: (index: number) => Room,
  onProgress?: (share: number) => void,
): MatchResult<Room> {
  const { takes } = plan;
  const stages = plan.process?.(aligned, plan.reference);
  const prepared = takes.map((take, i) => {
    onProgress?.((0.5 * i) / takes.length);
    return prepare(plan, take, aligned[i]!, stages?.(i) ?? [], placeFor(i));
  });
  const levels = prepared.map((clip) => levelOf(plan.method, clip, clip.before, 0));
  const ceiling = CEILING_DBTP - CEILING_MARGIN_DB;
  const highest = levels.map(
    (level, i) => level + ceiling - (prepared[i]!.before.truePeakDbtp ?? 0),
  );
  const quietest = highest.indexOf(Math.min(...highest));
  const safe = safeTarget(plan, prepared, levels);
  let target = plan.targetLufs ?? min(highest[quietest]!, safe);
  const limited = plan.targetLufs === undefined && highest[quietest]! <= safe;
  if (target > highest[quietest]! + CEILING_MARGIN_DB) {
    throw new MatchError(
      `a target of ${target.toFixed(1)} would take the peak of ${prepared[quietest]!.take.name} ` +
        `${(target - highest[quietest]!).toFixed(1)} dB over ${CEILING_DBTP} dBTP; ` +
        `${highest[quietest]!.toFixed(1)} is the most this set allows`,
    );
  }
  for (let attempt = 0; ; attempt++) {
    const clips = prepared.map((clip, i) => {
      onProgress?.(0.5 + (0.5 * i) / prepared.length);
      return levelled(plan, clip, target, levels[i]!, plan.seed + i);
    });
    const over = Math.max(...clips.map((clip) => clip.truePeakDbtp)) - CEILING_DBTP;
    if (over <= 0 || plan.targetLufs !== undefined || attempt === MAX_ROUNDS) {
      return {
        targetLufs: target,
        limitedBy: limited ? prepared[quietest]!.take.name : null,
        clips: clips.map((clip, i) => {
          const { sound } = prepared[i]!;
          amplify(sound, clip.gainDb);
          return { ...clip, sound };
        }),
        worstResidualLu: Math.max(...clips.map((clip) => abs(clip.residualLu))),
      };
    }
    target -= over + CEILING_MARGIN_DB;
  }
}

/** The highest target at which no clip is too loud for a comparison at one gain; no limit for other methods. */
function safeTarget(
  { method }: MatchPlan,
  prepared: readonly Prepared[],
  levels: readonly number[],
): number {
  if (method !== 'gain') return Number.POSITIVE_INFINITY;
  return min(
    ...prepared.map(
      ({ before }, i) =>
        levels[i]! +
        SAME_GAIN_MOST_LUFS -
        (before.integratedLufs ?? (before.rmsDbfs ?? Number.NEGATIVE_INFINITY) + MOST_WEIGHTING_DB),
    ),
  );
}

/** Sends a clip through a context, leaves the lead away, fades, and measures. */
function prepare<Room extends WritableSound>(
  plan: MatchPlan,
  take: MatchTake,
  aligned: AlignedClip,
  stages: readonly Stage[],
  sound: Room,
): Prepared<Room> {
  const { lead } = aligned;
  const { channels, frames } = sound;
  const fade = min(round(plan.fadeS * plan.sampleRateHz), Math.floor(frames / 2));
  const meter = new Meter(heardFormat(channels, plan.sampleRateHz), { truePeak: false });
  const sink = (block: readonly Float64Array[], at: number) => {
    fadeEnds(block, at, frames, fade);
    sound.write(at, block);
    meter.push(block);
  };
  throughStages(aligned.sound, stages, sink, lead);
  const found = meter.finish();
  // A true peak is no less than the largest sample.
  const atLeast = dbToAmplitude(found.samplePeakDbfs ?? Number.NEGATIVE_INFINITY);
  const truePeakDbtp = finiteOrNull(amplitudeToDb(truePeakOf(sound, atLeast)));
  return { take, aligned, sound, before: { ...found, truePeakDbtp } };
}

/** Raised-cosine fades of `count` frames at both ends of a clip, on a block that begins at a frame of it. */
function fadeEnds(block: readonly Float64Array[], at: number, frames: number, count: number): void {
  const weigh = (frame: number, weight: number) => {
    for (const samples of block) samples[frame - at]! *= weight;
  };
  const end = at + block[0]!.length;
  const weightOf = (n: number) => 0.5 - 0.5 * Math.cos((Math.PI * (n + 0.5)) / count);
  for (let n = at; n < min(count, end); n++) weigh(n, weightOf(n));
  for (let n = max(at, frames - count); n < end; n++) weigh(n, weightOf(frames - 1 - n));
}

/** Measures the bytes that a listener would get of a clip at a gain. */
function measureRounded(
  { sound, before }: Prepared,
  sampleRateHz: number,
  gain: number,
  seed: number,
): Measurement {
  const format = heardFormat(sound.channels, sampleRateHz);
  const meter = new Meter(format, { truePeak: false });
  let changed = 0;
  const onRead = (read: readonly Float64Array[], made: readonly Float64Array[]) => {
    for (const [c, samples] of read.entries()) {
      changed = max(changed, largestDifference(samples, made[c]!));
    }
    meter.push(read);
  };
  roundSound(sound, format, gain, seed, { onRead });
  // What rounding and dither did to any sample bounds what they did to the peak, which is known.
  const peak = gain * dbToAmplitude(before.truePeakDbtp ?? Number.NEGATIVE_INFINITY);
  return {
    ...meter.finish(),
    truePeakDbtp: finiteOrNull(amplitudeToDb(peak + LARGEST_GAIN * changed)),
  };
}

function largestDifference(a: Float64Array, b: Float64Array): number {
  let least = 0;
  let most = 0;
  for (let n = 0; n < a.length; n++) {
    const difference = a[n]! - b[n]!;
    if (difference < least) least = difference;
    if (difference > most) most = difference;
  }
  return max(most, -least);
}

/** Puts a clip at its gain, in place. */
function amplify(clip: WritableSound, gainDb: number): void {
  const stages = [amplifier(dbToAmplitude(gainDb))];
  throughStages(clip, stages, (block, at) => clip.write(at, block));
}

/** The level that the method makes equal, in LUFS or dBFS, without what a clip stands off it on purpose. */
function levelOf(
  method: MatchMethod,
  { take, aligned }: Prepared,
  measured: Measurement,
  gainDb: number,
): number {
  const onPurposeDb = take.onPurposeDb ?? 0;
  if (aligned.toneDbfs !== null) return aligned.toneDbfs + gainDb - onPurposeDb;
  // Where the level was found by other means, the quietest room will do; nothing at all was not recorded.
  const byGain = method === 'gain' || method === 'test';
  const level = method === 'rms' || byGain ? measured.rmsDbfs : measured.integratedLufs;
  if (level === null) {
    throw new MatchError(
      `${take.name} is silent in this passage or shorter than 0.4 s, so it has no loudness`,
    );
  }
  if (method === 'test') {
    if (take.testLufs === undefined) {
      throw new MatchError(
        `${take.name} has no test sound of its own; leave it out, or match by loudness`,
      );
    }
    return take.testLufs + gainDb - onPurposeDb;
  }
  if (method === 'gain') {
    if (take.recordedGainDb === undefined) {
      throw new MatchError(
        `nothing says at which gain ${take.name} was recorded; write it on the run sheet or in the chain, ` +
          'or match by loudness',
      );
    }
    return take.recordedGainDb + gainDb - onPurposeDb;
  }
  return level - onPurposeDb - (method === 'hand' ? (take.offsetDb ?? 0) : 0);
}

/**
 * Finds the gain by measuring the bytes and correcting: loudness does not follow gain exactly,
 * because its absolute gate stays put.
 */
function levelled(
  { method, sampleRateHz }: MatchPlan,
  clip: Prepared,
  target: number,
  levelBefore: number,
  seed: number,
): Levelled {
  const { take, before, aligned } = clip;
  let gainDb = target - levelBefore;
  for (let attempt = 1; ; attempt++) {
    const after = measureRounded(clip, sampleRateHz, dbToAmplitude(gainDb), seed);
    const residualLu = levelOf(method, clip, after, gainDb) - target;
    if (abs(residualLu) <= SETTLED_LU || attempt === MAX_ROUNDS) {
      return {
        name: take.name,
        delaySamples: aligned.delaySamples,
        polarityInverted: aligned.polarityInverted,
        coherence: aligned.coherence,
        driftPpm: aligned.driftPpm,
        blend: aligned.blend,
        gainDb,
        beforeLufs: before.integratedLufs,
        beforeRmsDbfs: before.rmsDbfs,
        afterLufs: after.integratedLufs,
        truePeakDbtp: after.truePeakDbtp ?? Number.NEGATIVE_INFINITY,
        residualLu,
        ditherSeed: seed,
      };
    }
    gainDb -= residualLu;
  }
}
