import {
  DEFAULT_SEARCH_S,
  findAlignment,
  SAME_PERFORMANCE_COHERENCE,
} from '@/core/alignment/delay';
import { findDrift, readStretched, worthCorrecting } from '@/core/alignment/drift';
import { findOnsetDelay } from '@/core/alignment/onset';
import { loudnessOf } from '@/core/loudness/meter';
import { printedToneDbfs } from '@/core/loudness/tone';
import { readAt } from '@/core/signal/interpolation';
import { BLOCK_FRAMES, blockOf, eachBlock, firstOf } from '@/core/signal/sound';
import { dbToAmplitude } from '@/core/signal/units';
import { FloatClip } from '@/core/wav/float-clip';

const { min, round } = Math;

/** Kept before a passage: filters and compressors have settled by then. */
export const LEAD_S = 1;

/** A set that cannot be matched; the message says which clip and what to do. */
export class MatchError extends Error {
  override name = 'MatchError';
}

/** How a take is laid in time: by the waveform, by onsets, or where the engineer says. */
export type AlignmentChoice =
  { by: 'performance' } | { by: 'onset' } | { by: 'hand'; delaySamples: number };

/** Samples, or how to come by them when it is their turn: a whole set need not lie in memory. */
type Samples = Float64Array[] | (() => Promise<Float64Array[]>);

export interface AlignTake {
  /** Name for messages. */
  name: string;
  channels: Samples;
  alignment: AlignmentChoice;
  /** Level of a printed tone that lies outside of `channels`, dBFS; looked for in them when absent. */
  toneDbfs?: number;
  /** A second chain that is mixed in. */
  blend?: BlendPart;
}

/** The second chain of a blend. */
export interface BlendPart {
  channels: Samples;
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

/** Where a take lies against the reference. */
export interface Placement {
  delaySamples: number;
  polarityInverted: boolean;
  /** Null when it was not laid by its waveform. */
  coherence: number | null;
  /** Clock drift, millionths; null where there is none to speak of. */
  driftPpm: number | null;
}

export interface AlignPlan {
  sampleRateHz: number;
  takes: readonly AlignTake[];
  /** Index of the take that sets the time. */
  reference: number;
  /** The passage in samples of the reference; the whole of it when absent. */
  passage?: { from: number; to: number };
  /** Whether every take must carry a printed tone. */
  withTone: boolean;
  /** Gives room for the bytes of a clip; new memory by default. */
  memory?: (bytes: number) => Uint8Array;
}

/** A take laid onto its reference and cut, with up to a second before the passage for processes to settle. */
export interface AlignedClip extends Placement {
  sound: FloatClip;
  /** Frames before the passage. */
  lead: number;
  blend: BlendFacts | null;
  /** Level of a printed tone, dBFS; null where none was asked for. */
  toneDbfs: number | null;
  /** Programme loudness, LUFS; null for silence. */
  loudness: number | null;
}

async function heard(samples: Samples): Promise<Float64Array[]> {
  return typeof samples === 'function' ? samples() : samples;
}

function checkShape(plan: AlignPlan, take: AlignTake, channels: number, wanted: number): void {
  if (channels === wanted) return;
  throw new MatchError(
    `${take.name} has ${channels} channels, ${plan.takes[plan.reference]!.name} has ` +
      `${wanted}; compare mono with mono and stereo with stereo`,
  );
}

/** Lays every take of a plan onto the reference, one after another. @throws MatchError as `alignTake` */
export async function alignAll(
  plan: AlignPlan,
  onProgress: (share: number) => void,
): Promise<AlignedClip[]> {
  const reference = await heard(plan.takes[plan.reference]!.channels);
  const clips: AlignedClip[] = [];
  for (const index of plan.takes.keys()) {
    onProgress(index / plan.takes.length);
    clips.push(await alignTake(plan, index, reference));
  }
  return clips;
}

/**
 * Lays a take onto the reference: delay between samples, polarity, drift of its clock, and its blend.
 * @param reference the samples of the take that sets the time
 * @throws MatchError when the take is unrelated, of another shape, or has no tone where one must be
 */
export async function alignTake(
  plan: AlignPlan,
  index: number,
  reference: Float64Array[],
): Promise<AlignedClip> {
  const { sampleRateHz } = plan;
  const take = plan.takes[index]!;
  const own = index === plan.reference ? reference : await heard(take.channels);
  checkShape(plan, take, own.length, reference.length);
  const placement = index === plan.reference ? IN_PLACE : placementOf(plan, take, own, reference);
  const { delaySamples, polarityInverted, driftPpm } = placement;
  const passage = plan.passage ?? { from: 0, to: reference[0]!.length };
  const lead = min(passage.from, plan.passage ? round(LEAD_S * sampleRateHz) : 0);
  const begin = passage.from - lead;
  const from = begin + delaySamples;
  // A drifting clock is right in the middle of what was compared; the passage is cut around it.
  const stretch = driftPpm === null ? null : 1 + driftPpm * 1e-6;
  const early = stretch === null ? 0 : (begin - reference[0]!.length / 2) * (stretch - 1);
  const sound = cut(plan, own, passage.to - begin, polarityInverted, (samples, at, length) =>
    stretch === null
      ? readAt(samples, from + at, length)
      : readStretched(samples, from + early + at * stretch, length, stretch),
  );
  const blend = take.blend
    ? await mixIn(plan, take, own, take.blend, from, polarityInverted, sound)
    : null;
  const toneDbfs = plan.withTone ? (take.toneDbfs ?? printedToneDbfs(own, sampleRateHz)) : null;
  if (plan.withTone && toneDbfs === null) {
    throw new MatchError(`${take.name} carries no 1 kHz tone of at least one second`);
  }
  const loudness = loudnessOf(sound, sampleRateHz);
  return { ...placement, sound, lead, blend, toneDbfs, loudness };
}

/** A clip out of samples that are read block by block. */
function cut(
  { sampleRateHz, memory }: AlignPlan,
  channels: readonly Float64Array[],
  frames: number,
  inverted: boolean,
  read: (samples: Float64Array, at: number, length: number) => Float64Array,
): FloatClip {
  const clip = FloatClip.empty(channels.length, frames, sampleRateHz, memory);
  for (let at = 0; at < frames; at += BLOCK_FRAMES) {
    const length = min(BLOCK_FRAMES, frames - at);
    clip.write(
      at,
      channels.map((samples) => turned(read(samples, at, length), inverted)),
    );
  }
  return clip;
}

const IN_PLACE: Placement = {
  delaySamples: 0,
  polarityInverted: false,
  coherence: null,
  driftPpm: null,
};

/** @throws MatchError for another performance */
function placementOf(
  plan: AlignPlan,
  { name, alignment }: AlignTake,
  own: Float64Array[],
  reference: Float64Array[],
): Placement {
  const { sampleRateHz } = plan;
  if (alignment.by === 'hand') return { ...IN_PLACE, delaySamples: alignment.delaySamples };
  if (alignment.by === 'onset') {
    return {
      ...IN_PLACE,
      delaySamples: findOnsetDelay(reference, own, sampleRateHz, DEFAULT_SEARCH_S),
    };
  }
  const { delaySamples, polarityInverted, coherence } = findAlignment(reference, own, sampleRateHz);
  if (coherence < SAME_PERFORMANCE_COHERENCE) {
    throw new MatchError(
      `${name} and ${plan.takes[plan.reference]!.name} do not look like the same ` +
        'performance; align this take by onsets or by hand',
    );
  }
  const drift = findDrift(reference, own, sampleRateHz, delaySamples);
  const { from, to } = plan.passage ?? { from: 0, to: reference[0]!.length };
  const driftPpm = drift && worthCorrecting(drift, to - from) ? drift.ppm : null;
  return { delaySamples, polarityInverted, coherence, driftPpm };
}

function turned(samples: Float64Array, inverted: boolean): Float64Array {
  if (inverted) for (let n = 0; n < samples.length; n++) samples[n] = -samples[n]!;
  return samples;
}

/** Adds the second chain of a blend, at its own choice of time and polarity; in place. */
async function mixIn(
  plan: AlignPlan,
  take: AlignTake,
  first: Float64Array[],
  part: BlendPart,
  from: number,
  inverted: boolean,
  clip: FloatClip,
): Promise<BlendFacts> {
  const second = await heard(part.channels);
  const found = findAlignment(first, second, plan.sampleRateHz);
  if (found.coherence < SAME_PERFORMANCE_COHERENCE) {
    throw new MatchError(
      `the two chains of the blend ${take.name} do not look like the same performance; ` +
        'a blend needs both recorded at once',
    );
  }
  const shift = part.timing === 'aligned' ? found.delaySamples : 0;
  const flip = inverted !== (part.polarity === 'corrected' && found.polarityInverted);
  const other = cut(
    plan,
    first.map((_, c) => second[c % second.length]!),
    clip.frames,
    flip,
    (samples, at, length) => readAt(samples, from + shift + at, length),
  );
  const [own, others] = [energyOf(clip), energyOf(other)];
  const gain = others > 0 ? Math.sqrt(own / others) * dbToAmplitude(part.otherDb) : 0;
  const room = blockOf(clip.channels);
  eachBlock(clip, (block, at) => {
    const added = firstOf(room, block[0]!.length);
    other.read(at, added);
    for (const [c, samples] of block.entries()) {
      for (let n = 0; n < samples.length; n++) samples[n]! += gain * added[c]![n]!;
    }
    clip.write(at, block);
  });
  return {
    delaySamples: found.delaySamples,
    polarityInverted: found.polarityInverted,
    leftSamples: found.delaySamples - shift,
    leftInverted: part.polarity === 'as recorded' && found.polarityInverted,
  };
}

function energyOf(clip: FloatClip): number {
  let sum = 0;
  eachBlock(clip, (block) => {
    for (const samples of block) for (const x of samples) sum += x * x;
  });
  return sum;
}
