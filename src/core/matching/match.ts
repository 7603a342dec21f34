import {
  DEFAULT_SEARCH_S,
  findAlignment,
  SAME_PERFORMANCE_COHERENCE,
} from '@/core/alignment/delay';
import { findDrift, readStretched, worthCorrecting } from '@/core/alignment/drift';
import { findOnsetDelay } from '@/core/alignment/onset';
import { measure, measureKnowingPeak, type Measurement } from '@/core/loudness/meter';
import { LARGEST_GAIN } from '@/core/loudness/true-peak';
import { printedToneDbfs } from '@/core/loudness/tone';
import { readAt } from '@/core/signal/interpolation';
import { Random } from '@/core/signal/random';
import { dbToAmplitude, meanSquare } from '@/core/signal/units';
import type { WavFormat } from '@/core/wav/format';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';

/**
 * What is made equal: programme loudness (default), mean square, or a printed 1 kHz tone; by hand,
 * programme loudness with an offset for each take that the engineer set by ear.
 */
export type MatchMethod = 'loudness' | 'rms' | 'tone' | 'hand';

/** How a take is laid in time: by the waveform, by onsets, or where the engineer says. */
export type AlignmentChoice =
  { by: 'performance' } | { by: 'onset' } | { by: 'hand'; delaySamples: number };

/** Samples, or how to come by them when it is their turn: a whole set need not lie in memory. */
export type Sound = Float64Array[] | (() => Promise<Float64Array[]>);

export interface MatchTake {
  /** Name for messages. */
  name: string;
  channels: Sound;
  alignment: AlignmentChoice;
  /** Level of a printed tone that lies outside of `channels`, dBFS; looked for in them when absent. */
  toneDbfs?: number;
  /** Offset by hand, dB over the common loudness; counts for that method only. */
  offsetDb?: number;
  /** A second chain that is mixed in. */
  blend?: BlendPart;
}

/** The second chain of a blend. */
export interface BlendPart {
  channels: Sound;
  /** Its mean square against the first chain's, dB. */
  otherDb: number;
  /** Laid onto the first chain, or late as the microphones stood. */
  timing: 'aligned' | 'as recorded';
  polarity: 'corrected' | 'as recorded';
}

/** What was found about a blend. */
export interface BlendFacts {
  /** How late the second chain was against the first. */
  delaySamples: number;
  polarityInverted: boolean;
  /** What is left of that delay in the clip; a comb when it is not 0. */
  leftSamples: number;
  leftInverted: boolean;
}

/** Turns an aligned clip into what is heard in a context; keeps the length. */
export type Process = (
  channels: Float64Array[],
  index: number,
  reference: Float64Array[],
) => Float64Array[];

/** Where a take lies against the reference. */
export interface Placement {
  delaySamples: number;
  polarityInverted: boolean;
  /** Null when it was not laid by its waveform. */
  coherence: number | null;
  /** Clock drift, millionths; null where there is none to speak of. */
  driftPpm: number | null;
}

export interface MatchPlan {
  sampleRateHz: number;
  takes: MatchTake[];
  /** Index of the take that sets the time. */
  reference: number;
  /** The passage in samples of the reference; the whole of it when absent. */
  passage?: { from: number; to: number };
  method: MatchMethod;
  /** Wanted common loudness or level; the loudest that keeps the headroom when absent. */
  targetLufs?: number;
  fadeS: number;
  searchS?: number;
  /** Applied to every clip after alignment and before the match; it hears up to a second before. */
  process?: Process;
  seed: number;
  /** Gives the placement of a take that is known already, and otherwise lets it be found. */
  known?: (index: number, find: () => Placement) => Placement;
}

export interface MatchedClip {
  name: string;
  /** After the gain, before rounding: what every copy is dithered from. */
  channels: Float64Array[];
  delaySamples: number;
  polarityInverted: boolean;
  /** Coherence with the reference, null when the take was not aligned by its waveform. */
  coherence: number | null;
  /** Clock drift against the reference that was taken out, millionths; null when there was none. */
  driftPpm: number | null;
  blend: BlendFacts | null;
  gainDb: number;
  beforeLufs: number;
  beforeRmsDbfs: number | null;
  /** Measured on the 24-bit bytes. */
  afterLufs: number;
  /** Of the bytes; at most 0.0001 dB too high. */
  truePeakDbtp: number;
  /** Method's own level on the bytes minus the target. */
  residualLu: number;
  /** The very 24-bit bytes that were measured, written again; equal in shape for all clips of a set. */
  encoded: () => Uint8Array<ArrayBuffer>;
}

export interface MatchResult {
  targetLufs: number;
  /** The clip whose peak sets the common level (null when the target was given). */
  limitedBy: string | null;
  clips: MatchedClip[];
  worstResidualLu: number;
}

/** A set that cannot be matched; the message says which clip and what to do. */
export class MatchError extends Error {
  override name = 'MatchError';
}

const { max, min } = Math;

export const CEILING_DBTP = -1;
/** Room for dither and rounding below the ceiling. */
const CEILING_MARGIN_DB = 0.005;
/** Filters and compressors have settled by then. */
const LEAD_S = 1;
const SETTLED_LU = 0.002;
const MAX_ROUNDS = 8;

type Settled = Omit<MatchedClip, 'channels' | 'encoded'>;

interface Prepared {
  take: MatchTake;
  channels: Float64Array[];
  /** What the method makes equal, before any gain; clip itself except for a printed tone. */
  fixedLevel: number | null;
  delaySamples: number;
  polarityInverted: boolean;
  coherence: number | null;
  driftPpm: number | null;
  blend: BlendFacts | null;
}

/**
 * Makes a set of clips out of takes: align, correct polarity, cut, fade, bring to a common level with
 * one gain each (no limiter; no true peak over -1 dBTP), write 24 bits with dither, and measure
 * those bytes.
 * @param onProgress told the share that is done, 0 … 1
 * @throws MatchError when a take is unrelated, silent, too short, has no tone, or the target clips
 */
export async function matchClips(
  plan: MatchPlan,
  onProgress?: (share: number) => void,
): Promise<MatchResult> {
  const reference = await heard(plan.takes[plan.reference].channels);
  const passage = plan.passage ?? { from: 0, to: reference[0].length };
  const lead = plan.process ? min(passage.from, Math.round(LEAD_S * plan.sampleRateHz)) : 0;
  const wide = { from: passage.from - lead, to: passage.to };
  const aligned: Prepared[] = [];
  for (const [i, take] of plan.takes.entries()) {
    onProgress?.((0.5 * i) / plan.takes.length);
    aligned.push(await prepare(plan, take, i, wide, reference));
  }
  const referenceClip = aligned[plan.reference].channels;
  const prepared: Prepared[] = [];
  for (let i = 0; i < plan.takes.length; i++) {
    onProgress?.(0.5 + (0.1 * i) / plan.takes.length);
    const { channels } = aligned[i];
    const made = plan.process?.(channels, i, referenceClip) ?? channels;
    prepared.push({ ...aligned[i], channels: trimmed(made, lead, plan) });
    // Every process hears the reference; nothing else is heard again.
    if (i !== plan.reference) aligned[i].channels = [];
  }
  const format: WavFormat = {
    sampleRateHz: plan.sampleRateHz,
    channels: prepared[0].channels.length,
    bitDepth: 24,
    encoding: 'pcm',
    channelMask: 0,
  };
  const before = prepared.map((clip) => measure(clip.channels, format));
  const levels = prepared.map((clip, i) => levelOf(plan.method, clip, before[i], 0));
  const ceiling = CEILING_DBTP - CEILING_MARGIN_DB;
  const highest = levels.map((level, i) => level + ceiling - (before[i].truePeakDbtp ?? 0));
  const quietest = highest.indexOf(Math.min(...highest));
  let target = plan.targetLufs ?? highest[quietest];
  if (target > highest[quietest] + CEILING_MARGIN_DB) {
    throw new MatchError(
      `a target of ${target.toFixed(1)} would take the peak of ${prepared[quietest].take.name} ` +
        `${(target - highest[quietest]).toFixed(1)} dB over ${CEILING_DBTP} dBTP; ` +
        `${highest[quietest].toFixed(1)} is the most this set allows`,
    );
  }
  for (let attempt = 0; ; attempt++) {
    const clips: Settled[] = [];
    for (let i = 0; i < prepared.length; i++) {
      onProgress?.(0.6 + (0.4 * i) / prepared.length);
      const seed = plan.seed + i;
      clips.push(
        await settle(plan.method, prepared[i], format, target, before[i], levels[i], seed),
      );
    }
    const over = Math.max(...clips.map((clip) => clip.truePeakDbtp)) - CEILING_DBTP;
    if (over <= 0 || plan.targetLufs !== undefined || attempt === MAX_ROUNDS) {
      return {
        targetLufs: target,
        limitedBy: plan.targetLufs === undefined ? prepared[quietest].take.name : null,
        clips: clips.map((clip, i) => {
          const channels = amplified(prepared[i], clip.gainDb);
          return { ...clip, channels, encoded: () => written(channels, format, plan.seed + i) };
        }),
        worstResidualLu: Math.max(...clips.map((clip) => Math.abs(clip.residualLu))),
      };
    }
    target -= over + CEILING_MARGIN_DB;
  }
}

async function heard(sound: Sound): Promise<Float64Array[]> {
  return typeof sound === 'function' ? sound() : sound;
}

function checkShape(plan: MatchPlan, take: MatchTake, channels: number, wanted: number): void {
  if (channels === wanted) return;
  throw new MatchError(
    `${take.name} has ${channels} channels, ${plan.takes[plan.reference].name} has ` +
      `${wanted}; compare mono with mono and stereo with stereo`,
  );
}

async function prepare(
  plan: MatchPlan,
  take: MatchTake,
  index: number,
  passage: { from: number; to: number },
  reference: Float64Array[],
): Promise<Prepared> {
  const own = index === plan.reference ? reference : await heard(take.channels);
  checkShape(plan, take, own.length, reference.length);
  const length = passage.to - passage.from;
  const find = () => placementOf(plan, take, own, reference);
  const { delaySamples, polarityInverted, coherence, driftPpm } =
    index === plan.reference ? IN_PLACE : (plan.known?.(index, find) ?? find());
  const from = passage.from + delaySamples;
  // A drifting clock is right in the middle of what was compared; the passage is cut around it.
  const middle = reference[0].length / 2;
  const read = (samples: Float64Array, at: number) =>
    driftPpm === null
      ? readAt(samples, at, length)
      : readStretched(
          samples,
          at + (passage.from - middle) * driftPpm * 1e-6,
          length,
          1 + driftPpm * 1e-6,
        );
  const channels = own.map((samples) => turned(read(samples, from), polarityInverted));
  const blend = take.blend
    ? await mixIn(plan, take, own, take.blend, from, polarityInverted, channels)
    : null;
  const fixedLevel =
    plan.method === 'tone' ? (take.toneDbfs ?? printedToneDbfs(own, plan.sampleRateHz)) : null;
  if (plan.method === 'tone' && fixedLevel === null) {
    throw new MatchError(`${take.name} carries no 1 kHz tone of at least one second`);
  }
  return {
    take,
    channels,
    fixedLevel,
    delaySamples,
    polarityInverted,
    coherence,
    driftPpm,
    blend,
  };
}

const IN_PLACE: Placement = {
  delaySamples: 0,
  polarityInverted: false,
  coherence: null,
  driftPpm: null,
};

/** @throws MatchError for another performance */
function placementOf(
  plan: MatchPlan,
  { name, alignment }: MatchTake,
  own: Float64Array[],
  reference: Float64Array[],
): Placement {
  const { sampleRateHz, searchS = DEFAULT_SEARCH_S } = plan;
  if (alignment.by === 'hand') return { ...IN_PLACE, delaySamples: alignment.delaySamples };
  if (alignment.by === 'onset') {
    return { ...IN_PLACE, delaySamples: findOnsetDelay(reference, own, sampleRateHz, searchS) };
  }
  const { delaySamples, polarityInverted, coherence } = findAlignment(
    reference,
    own,
    sampleRateHz,
    searchS,
  );
  if (coherence < SAME_PERFORMANCE_COHERENCE) {
    throw new MatchError(
      `${name} and ${plan.takes[plan.reference].name} do not look like the same ` +
        'performance; align this take by onsets or by hand',
    );
  }
  const drift = findDrift(reference, own, sampleRateHz, delaySamples);
  const { from, to } = plan.passage ?? { from: 0, to: reference[0].length };
  const driftPpm = drift && worthCorrecting(drift, to - from) ? drift.ppm : null;
  return { delaySamples, polarityInverted, coherence, driftPpm };
}

function turned(samples: Float64Array, inverted: boolean): Float64Array {
  if (inverted) for (let n = 0; n < samples.length; n++) samples[n] = -samples[n];
  return samples;
}

/** Adds the second chain of a blend, at its own choice of time and polarity; in place. */
async function mixIn(
  plan: MatchPlan,
  take: MatchTake,
  first: Float64Array[],
  part: BlendPart,
  from: number,
  inverted: boolean,
  channels: Float64Array[],
): Promise<BlendFacts> {
  const searchS = plan.searchS ?? DEFAULT_SEARCH_S;
  const second = await heard(part.channels);
  const found = findAlignment(first, second, plan.sampleRateHz, searchS);
  if (found.coherence < SAME_PERFORMANCE_COHERENCE) {
    throw new MatchError(
      `the two chains of the blend ${take.name} do not look like the same performance; ` +
        'a blend needs both recorded at once',
    );
  }
  const shift = part.timing === 'aligned' ? found.delaySamples : 0;
  const flip = inverted !== (part.polarity === 'corrected' && found.polarityInverted);
  const others = channels.map((samples, c) =>
    turned(readAt(second[c % second.length], from + shift, samples.length), flip),
  );
  const own = meanSquare(channels);
  const other = meanSquare(others);
  const gain = other > 0 ? Math.sqrt(own / other) * dbToAmplitude(part.otherDb) : 0;
  channels.forEach((samples, c) => {
    for (let n = 0; n < samples.length; n++) samples[n] += gain * others[c][n];
  });
  return {
    delaySamples: found.delaySamples,
    polarityInverted: found.polarityInverted,
    leftSamples: found.delaySamples - shift,
    leftInverted: part.polarity === 'as recorded' && found.polarityInverted,
  };
}

/** Without the lead, and faded. */
function trimmed(channels: Float64Array[], lead: number, plan: MatchPlan): Float64Array[] {
  const length = Math.round(plan.fadeS * plan.sampleRateHz);
  return channels.map((samples) => fade(samples.slice(lead), length));
}

/** Raised-cosine fades at both ends, in place. */
function fade(samples: Float64Array, length: number): Float64Array {
  const count = Math.min(length, Math.floor(samples.length / 2));
  for (let n = 0; n < count; n++) {
    const weight = 0.5 - 0.5 * Math.cos((Math.PI * (n + 0.5)) / count);
    samples[n] *= weight;
    samples[samples.length - 1 - n] *= weight;
  }
  return samples;
}

/**
 * Measures bytes that were made from samples whose true peak is known: what rounding and dither did
 * to any sample, as found, bounds what they did to the peak, so it need not be searched again.
 * @param peak linear true peak of `made`
 */
async function measureBytes(
  bytes: Uint8Array<ArrayBuffer>,
  format: WavFormat,
  made: readonly Float64Array[],
  peak: number,
): Promise<Measurement> {
  const { channels } = await decodeWav(bytes);
  const changed = Math.max(...channels.map((samples, c) => largestDifference(samples, made[c])));
  return measureKnowingPeak(channels, format, peak + LARGEST_GAIN * changed);
}

function largestDifference(a: Float64Array, b: Float64Array): number {
  let least = 0;
  let most = 0;
  for (let n = 0; n < a.length; n++) {
    least = min(least, a[n] - b[n]);
    most = max(most, a[n] - b[n]);
  }
  return max(most, -least);
}

export function scaled(samples: Float64Array, gain: number): Float64Array {
  const out = new Float64Array(samples.length);
  for (let n = 0; n < out.length; n++) out[n] = gain * samples[n];
  return out;
}

/** 24 bits with the dither of a seed: the same samples give the same bytes again. */
function written(channels: Float64Array[], { sampleRateHz }: WavFormat, seed: number) {
  return encodeWav(channels, sampleRateHz, 24, new Random(seed));
}

/** A clip at its gain, in the place of what it was made from. */
function amplified({ channels }: Prepared, gainDb: number): Float64Array[] {
  const gain = dbToAmplitude(gainDb);
  for (const samples of channels) {
    for (let n = 0; n < samples.length; n++) samples[n] *= gain;
  }
  return channels;
}

/** The level that the method makes equal, in LUFS or dBFS. */
function levelOf(
  method: MatchMethod,
  clip: Prepared,
  measured: Measurement,
  gainDb: number,
): number {
  if (clip.fixedLevel !== null) return clip.fixedLevel + gainDb;
  const level = method === 'rms' ? measured.rmsDbfs : measured.integratedLufs;
  if (level === null) {
    throw new MatchError(
      `${clip.take.name} is silent in this passage or shorter than 0.4 s, so it has no loudness`,
    );
  }
  return method === 'hand' ? level - (clip.take.offsetDb ?? 0) : level;
}

/**
 * Finds the gain by measuring the bytes and correcting: loudness does not follow gain exactly,
 * because its absolute gate stays put.
 */
async function settle(
  method: MatchMethod,
  clip: Prepared,
  format: WavFormat,
  target: number,
  before: Measurement,
  levelBefore: number,
  seed: number,
): Promise<Settled> {
  const peakBefore = dbToAmplitude(before.truePeakDbtp ?? Number.NEGATIVE_INFINITY);
  let gainDb = target - levelBefore;
  for (let round = 1; ; round++) {
    const gain = dbToAmplitude(gainDb);
    const channels = clip.channels.map((samples) => scaled(samples, gain));
    const bytes = written(channels, format, seed);
    const after = await measureBytes(bytes, format, channels, peakBefore * gain);
    const residualLu = levelOf(method, clip, after, gainDb) - target;
    if (Math.abs(residualLu) <= SETTLED_LU || round === MAX_ROUNDS) {
      return {
        name: clip.take.name,
        delaySamples: clip.delaySamples,
        polarityInverted: clip.polarityInverted,
        coherence: clip.coherence,
        driftPpm: clip.driftPpm,
        blend: clip.blend,
        gainDb,
        beforeLufs: before.integratedLufs ?? Number.NaN,
        beforeRmsDbfs: before.rmsDbfs,
        afterLufs: after.integratedLufs ?? Number.NaN,
        truePeakDbtp: after.truePeakDbtp ?? Number.NEGATIVE_INFINITY,
        residualLu,
      };
    }
    gainDb -= residualLu;
  }
}
