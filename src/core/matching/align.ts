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
import {
  blockOf,
  eachBlock,
  firstOf,
  framesOf,
  type Sound,
  widened,
  type WritableSound,
} from '@/core/signal/sound';
import { dbToAmplitude } from '@/core/signal/units';
import { FloatClip } from '@/core/wav/float-clip';

const { ceil, floor, min, round } = Math;

/** Kept before a passage: filters and compressors have settled by then. */
export const LEAD_S = 1;

/** A set that cannot be matched; the message says which clip and what to do. */
export class MatchError extends Error {
  override name = 'MatchError';
}

/** How a take is laid in time: by the waveform, by onsets, or where the engineer says. */
export type AlignmentChoice =
  { by: 'performance' } | { by: 'onset' } | { by: 'hand'; delaySamples: number };

/** Sound, or how to come by it when it is its turn: a whole set need not lie in memory. */
type Take = Sound | (() => Promise<Sound>);

export interface AlignTake {
  /** Name for messages. */
  name: string;
  sound: Take;
  alignment: AlignmentChoice;
  /** Level of a printed tone that lies outside of `sound`, dBFS; looked for in it when absent. */
  toneDbfs?: number;
  /** A second chain that is mixed in. */
  blend?: SecondChain;
}

/** The second chain of a blend. */
export interface SecondChain {
  sound: Take;
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
  /** Whether the loudness of the clips is asked for, as whatever depends on level does. */
  withLoudness: boolean;
}

/** Gives room for a clip, all zero: in memory, or in a file where clips are long. */
export type RoomFor<Room extends WritableSound> = (channels: number, frames: number) => Room;

/** Room in memory, as a clip is stored. */
export function inMemory(sampleRateHz: number): RoomFor<FloatClip> {
  return (channels, frames) => FloatClip.empty(channels, frames, sampleRateHz);
}

/** A take laid onto its reference and cut, with up to a second before the passage for processes to settle. */
export interface AlignedClip<Clip extends Sound = Sound> extends Placement {
  sound: Clip;
  /** Frames before the passage. */
  lead: number;
  blend: BlendFacts | null;
  /** Level of a printed tone, dBFS; null where none was asked for. */
  toneDbfs: number | null;
  /** Programme loudness, LUFS; null for silence, and where it was not asked for. */
  loudness: number | null;
}

async function heard(take: Take): Promise<Sound> {
  return typeof take === 'function' ? take() : take;
}

function checkShape(plan: AlignPlan, take: AlignTake, channels: number, wanted: number): void {
  if (channels === wanted) return;
  throw new MatchError(
    `${take.name} has ${channels} channels, ${plan.takes[plan.reference]!.name} has ` +
      `${wanted}; compare mono with mono and stereo with stereo`,
  );
}

/** Lays every take of a plan onto the reference, one after another. @throws MatchError as `alignTake` */
export async function alignAll<Room extends WritableSound>(
  plan: AlignPlan,
  roomFor: RoomFor<Room>,
  onProgress?: (share: number) => void,
): Promise<AlignedClip<Room>[]> {
  const reference = await heard(plan.takes[plan.reference]!.sound);
  const clips: AlignedClip<Room>[] = [];
  for (const index of plan.takes.keys()) {
    onProgress?.(index / plan.takes.length);
    clips.push(await alignTake(plan, index, reference, roomFor));
  }
  return clips;
}

/**
 * Lays a take onto the reference: delay between samples, polarity, drift of its clock, and its blend.
 * @param reference the take that sets the time
 * @throws MatchError when the take is unrelated, of another shape, or has no tone where one must be
 */
export async function alignTake<Room extends WritableSound>(
  plan: AlignPlan,
  index: number,
  reference: Sound,
  roomFor: RoomFor<Room>,
): Promise<AlignedClip<Room>> {
  const { sampleRateHz } = plan;
  const take = plan.takes[index]!;
  const own = index === plan.reference ? reference : await heard(take.sound);
  checkShape(plan, take, own.channels, reference.channels);
  const placement = index === plan.reference ? IN_PLACE : placementOf(plan, take, own, reference);
  const { delaySamples, polarityInverted, driftPpm } = placement;
  const passage = plan.passage ?? { from: 0, to: reference.frames };
  const lead = min(passage.from, plan.passage ? round(LEAD_S * sampleRateHz) : 0);
  const begin = passage.from - lead;
  const from = begin + delaySamples;
  // A drifting clock is right in the middle of what was compared; the passage is cut around it.
  const stretch = driftPpm === null ? null : 1 + driftPpm * 1e-6;
  const early = stretch === null ? 0 : (begin - reference.frames / 2) * (stretch - 1);
  const sound = roomFor(own.channels, passage.to - begin);
  const start = from + (stretch === null ? 0 : early);
  cut(own, start, stretch, polarityInverted, sound);
  const blend = take.blend
    ? await mixIn(plan, take, own, take.blend, from, polarityInverted, sound, roomFor)
    : null;
  const toneDbfs = plan.withTone ? (take.toneDbfs ?? printedToneDbfs(own, sampleRateHz)) : null;
  if (plan.withTone && toneDbfs === null) {
    throw new MatchError(`${take.name} carries no 1 kHz tone of at least one second`);
  }
  const loudness = plan.withLoudness ? loudnessOf(sound, sampleRateHz) : null;
  return { ...placement, sound, lead, blend, toneDbfs, loudness };
}

/** Frames that are laid at once: the taps of a delay are worked out anew for each block. */
const CUT_FRAMES = 1 << 14;
/** No tap of a delay reaches farther. */
const TAPS_REACH = 25;

/**
 * Fills a clip with a take from a fractional frame on.
 * @param stretch frames of the take to one of the clip, where its clock drifts
 */
function cut(
  take: Sound,
  from: number,
  stretch: number | null,
  inverted: boolean,
  clip: WritableSound,
): void {
  const step = stretch ?? 1;
  for (let at = 0; at < clip.frames; at += CUT_FRAMES) {
    const length = min(CUT_FRAMES, clip.frames - at);
    const position = from + at * step;
    const first = floor(position) - TAPS_REACH;
    const around = framesOf(take, first, ceil(length * step) + 2 * TAPS_REACH);
    const block = around.map((samples) =>
      stretch === null
        ? readAt(samples, position - first, length)
        : readStretched(samples, position - first, length, stretch),
    );
    clip.write(at, inverted ? block.map(turned) : block);
  }
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
  own: Sound,
  reference: Sound,
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
  const { from, to } = plan.passage ?? { from: 0, to: reference.frames };
  const driftPpm = drift && worthCorrecting(drift, to - from) ? drift.ppm : null;
  return { delaySamples, polarityInverted, coherence, driftPpm };
}

function turned(samples: Float64Array): Float64Array {
  for (let n = 0; n < samples.length; n++) samples[n] = -samples[n]!;
  return samples;
}

/** Adds the second chain of a blend, at its own choice of time and polarity; in place. */
async function mixIn<Room extends WritableSound>(
  plan: AlignPlan,
  take: AlignTake,
  first: Sound,
  asked: SecondChain,
  from: number,
  inverted: boolean,
  clip: Room,
  roomFor: RoomFor<Room>,
): Promise<BlendFacts> {
  const second = await heard(asked.sound);
  const found = findAlignment(first, second, plan.sampleRateHz);
  if (found.coherence < SAME_PERFORMANCE_COHERENCE) {
    throw new MatchError(
      `the two chains of the blend ${take.name} do not look like the same performance; ` +
        'a blend needs both recorded at once',
    );
  }
  const shift = asked.timing === 'aligned' ? found.delaySamples : 0;
  const flip = inverted !== (asked.polarity === 'corrected' && found.polarityInverted);
  const other = roomFor(clip.channels, clip.frames);
  cut(widened(second, first.channels), from + shift, null, flip, other);
  const [own, others] = [energyOf(clip), energyOf(other)];
  const gain = others > 0 ? Math.sqrt(own / others) * dbToAmplitude(asked.otherDb) : 0;
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
    leftInverted: asked.polarity === 'as recorded' && found.polarityInverted,
  };
}

function energyOf(clip: Sound): number {
  let sum = 0;
  eachBlock(clip, (block) => {
    for (const samples of block) for (const x of samples) sum += x * x;
  });
  return sum;
}
