import type { z } from 'zod';
import type { TakeFeatures } from '@/core/checks/features';
import type { ContextKind } from '@/core/matching/contexts';
import type { MatchResult } from '@/core/matching/match';
import type { ClipSpectra } from '@/core/spectrum/clip-spectra';
import { hash32 } from '@/core/signal/random';
import { putAudio } from '@/platform/audio-store';
import { type Db, db, transaction, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { enqueue } from '@/platform/jobs';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import type { Chain } from '@/steps/chains/schema';
import { listChains } from '@/steps/chains/store';
import type { Comparison, Passage, Source } from '@/steps/comparisons/schema';
import { comparisonOf, passageOf, sourcesOf, takePassageBack } from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import type { ShownTake, Take } from '@/steps/takes/schema';
import { checkedTakes, shownTake, takeOf } from '@/steps/takes/service';
import { recordedGainsOf } from '@/steps/takes/gains';
import { findTake, type TakeSource, testSounds } from '@/steps/takes/store';
import { listNotes } from './notes';
import {
  type AlignmentChange,
  type Clip,
  type ClipNote,
  type ClipSet,
  CONTEXT_WORDS,
  type MatchAllOrder,
  type matchedAll,
  type MatchOrder,
  type PassageTake,
  type Recipe,
  type SetTake,
  type TakeAlignment,
} from './schema';
import {
  allThere,
  backingOf,
  clipMaster,
  deleteFailedSet,
  findClipSet,
  insertClip,
  insertClipSet,
  insertTrainingClip,
  listClips,
  listClipSets,
  nextToPicture,
  putAlignment,
  putSpectra,
  finishClipSet,
  takesOfPassage,
  placeAgain,
} from './store';

export interface MatchView {
  comparison: Comparison;
  temperatureC: number;
  sources: Source[];
  passages: Passage[];
  /** The passage that is looked at. */
  passage: Passage;
  chains: Chain[];
  takes: ShownTake[];
  /** Of each chain whose room was recorded: what it adds when nobody plays. */
  rooms: Record<string, Pick<TakeFeatures, 'thirdsDb' | 'aWeightedDbfs'>>;
  alignments: TakeAlignment[];
  hasBacking: boolean;
  /** Every set of the passage, the newest first. */
  sets: ClipSet[];
  /** The set that is looked at. */
  clipSet: ClipSet | null;
  clips: Clip[];
  /** What was noted while hearing them by name, the newest first. */
  notes: ClipNote[];
  /** Who looks: own notes can be deleted. */
  lookerId: string;
  /** A variant in that set is made otherwise by now. */
  outdated: boolean;
}

/** @param at which passage, and which set of it; the first and the newest raw one when left out */
export async function matchOf(
  engineer: SignedIn,
  comparisonId: string,
  at: { passageId?: string; clipSetId?: string } = {},
): Promise<MatchView> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const passages = await listPassages(db(), comparisonId);
  const passage = passages.find(({ id }) => id === at.passageId) ?? passages[0]!;
  const all = await listClipSets(db(), comparisonId);
  const now = await takesForMatch(db(), comparisonId, passage.id);
  // A page is told of the takes by themselves.
  const sets = all
    .filter(({ passageId }) => passageId === passage.id)
    .map((set) => ({ ...set, recipe: { ...set.recipe, takes: undefined } }));
  const clipSet =
    sets.find(({ id }) => id === at.clipSetId) ??
    sets.find(({ context }) => context === 'raw') ??
    sets.at(0) ??
    null;
  const { sources, temperatureC } = await sourcesOf(db(), comparisonId);
  const takes = await checkedTakes(db(), comparisonId);
  return {
    comparison,
    temperatureC,
    sources,
    passages,
    passage,
    chains: await listChains(db(), comparisonId),
    takes: takes.map(shownTake),
    rooms: roomsOf(takes),
    alignments: now.map(({ takeId, chainId, alignment, delayMs, recordedGainDb }, i) => ({
      takeId,
      chainId,
      alignment,
      delayMs,
      recordedGainDb,
      borrowed: now.findIndex((one) => one.takeId === takeId) < i,
    })),
    hasBacking: (await backingOf(db(), passage.id)) !== null,
    sets,
    clipSet,
    clips: clipSet ? await listClips(db(), clipSet.id) : [],
    notes: clipSet ? await listNotes(db(), clipSet.id) : [],
    lookerId: engineer.accountId,
    outdated: all.some((set) => set.id === clipSet?.id && isOutdated(set, now)),
  };
}

/** Whether a variant is set otherwise now than when a set was ordered. */
function isOutdated({ recipe }: ClipSet, now: readonly SetTake[]): boolean {
  const words = (takes: readonly SetTake[], id: string) =>
    JSON.stringify(takes.find(({ chainId }) => chainId === id)?.stages ?? []);
  const { takes = [] } = recipe;
  return takes.some(
    ({ chainId }) =>
      now.some((one) => one.chainId === chainId) && words(takes, chainId) !== words(now, chainId),
  );
}

/** The first recording of each chain's room. */
function roomsOf(takes: readonly Take[]): MatchView['rooms'] {
  const rooms: MatchView['rooms'] = {};
  for (const { chainId, programme, facts } of takes) {
    if (programme !== 'room' || !chainId || !facts?.features || chainId in rooms) continue;
    const { thirdsDb, aWeightedDbfs } = facts.features;
    rooms[chainId] = { thirdsDb, aWeightedDbfs };
  }
  return rooms;
}

export async function setAlignment(
  engineer: SignedIn,
  comparisonId: string,
  change: AlignmentChange,
): Promise<void> {
  await takeOf(engineer, comparisonId, change.takeId);
  await transaction(async (tx) => {
    await passageOf(tx, comparisonId, change.passageId);
    await putAlignment(tx, change);
    await announce(tx, comparisonId);
  });
}

/** Takes that would go into a set of a passage, in the order of the chains. */
export async function takesForMatch(
  from: Db,
  comparisonId: string,
  passageId: string,
): Promise<SetTake[]> {
  const chains = await listChains(from, comparisonId);
  const named = chains.flatMap(({ shape }) =>
    shape.kind === 'variant' ? (shape.takeId ?? []) : [],
  );
  const { fitting, named: chosen } = await takesOfPassage(from, comparisonId, passageId, named);
  const passage = await passageOf(from, comparisonId, passageId);
  const gainOf = await recordedGainsOf(from, comparisonId, passage, chains);
  const takeOfChain = (id: string | null) => fitting.find(({ chainId }) => chainId === id);
  const alone = ({ number, ...take }: PassageTake) => {
    const { gainDb: recordedGainDb, knob: recordedKnob } = gainOf(take.chainId, number);
    return { ...take, recordedGainDb, recordedKnob, testLufs: null };
  };
  const heardOf = ({ id, name, shape }: Chain): SetTake[] => {
    if (shape.kind === 'variant') {
      const of = chains.find((chain) => chain.id === shape.ofChainId);
      const own = chosen.find(({ takeId }) => takeId === shape.takeId);
      if (!of || of.shape.kind === 'variant' || (shape.takeId !== null && own?.chainId !== of.id)) {
        return [];
      }
      const { stages } = shape;
      const as = { chainId: id, chainName: name, stages, variantOf: of.id };
      return own
        ? [{ ...alone(own), blend: null, ...as }]
        : heardOf(of).map((heard) => ({ ...heard, ...as }));
    }
    if (shape.kind !== 'blend') {
      const own = takeOfChain(id);
      return own
        ? [{ ...alone(own), chainName: name, blend: null, stages: [], variantOf: null }]
        : [];
    }
    const first = takeOfChain(id) ?? takeOfChain(shape.firstChainId);
    const other = takeOfChain(shape.otherChainId);
    if (!first || !other) return [];
    const { otherDb, timing, polarity } = shape;
    const { audioId, channels } = other;
    const blend = { audioId, channels, otherDb, timing, polarity };
    // Two gains meet in a blend: none is its own.
    const made = { ...alone(first), recordedGainDb: null, recordedKnob: '' };
    return [{ ...made, chainId: id, chainName: name, blend, stages: [], variantOf: null }];
  };
  return chains.flatMap(heardOf);
}

/**
 * The same takes with the loudness of their chains' test sounds, as if those had been recorded at the takes' gains.
 * A blend or a processed variant is not what its chain's test sound went through.
 * @throws UserError where a chain has none
 */
async function withTestSounds(
  tx: Tx,
  comparisonId: string,
  sourceId: string,
  takes: readonly SetTake[],
): Promise<SetTake[]> {
  const sounds = await testSounds(tx, comparisonId);
  const chains = await listChains(tx, comparisonId);
  const gainsIn = new Map<string, Awaited<ReturnType<typeof recordedGainsOf>>>();
  for (const source of new Set(sounds.map((sound) => sound.sourceId))) {
    const tone = { sourceId: source, programme: 'tone' as const, detail: '' };
    gainsIn.set(source, await recordedGainsOf(tx, comparisonId, tone, chains));
  }
  const turned: string[] = [];
  const found = takes.map((take) => {
    const chainId = take.variantOf ?? take.chainId;
    const own = sounds.filter((sound) => sound.chainId === chainId);
    const sound = own.find((one) => one.sourceId === sourceId) ?? own[0];
    const asRecorded = take.blend === null && take.stages.every(({ kind }) => kind === 'level');
    if (!sound || !asRecorded) return { ...take, testLufs: null };
    const { gainDb = null, knob = '' } = gainsIn.get(sound.sourceId)?.(chainId, 1) ?? {};
    const known = gainDb !== null && take.recordedGainDb !== null;
    if (!known && knob !== take.recordedKnob) turned.push(take.chainName);
    return { ...take, testLufs: sound.lufs + (known ? take.recordedGainDb! - gainDb : 0) };
  });
  if (turned.length > 0) {
    throw new UserError(
      422,
      `The knob stood elsewhere for the test sound of these, and nothing says by how much: ${turned.join(', ')}. Write both gains in decibels, record the sound as the take was recorded, or match by loudness.`,
    );
  }
  const without = found.filter(({ testLufs }) => testLufs === null);
  if (without.length > 0) {
    const names = without.map(({ chainName }) => chainName).join(', ');
    throw new UserError(
      422,
      `No test sound tells the level of these: ${names}. Record three seconds or more of the step “test sound” through them, leave them out, or match by loudness.`,
    );
  }
  return found;
}

/** Raw clips are heard first; then what takes longest begins first, so that all is done soonest. */
const PRIORITIES: Record<ContextKind, number> = { raw: 4, alike: 3, tailored: 3, toned: 2, mix: 1 };

/** Orders new sets of clips, one for each context, from takes, passage and choices as they stand now. */
export async function startMatch(
  engineer: SignedIn,
  comparisonId: string,
  { contexts, offsets, leftOut, ...order }: MatchOrder,
  at: Date,
): Promise<string[]> {
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    await tx.rows('SELECT pg_advisory_xact_lock(hashtextextended($1, 4))', [comparisonId]);
    const passage = await passageOf(tx, comparisonId, order.passageId);
    const { fromS, toS, name, id: passageId, sourceId } = passage;
    if (fromS === null || toS === null) {
      throw new UserError(422, 'Mark the passage on the waveform first.');
    }
    const takes = (await takesForMatch(tx, comparisonId, passageId)).filter(
      ({ chainId }) => !leftOut.includes(chainId),
    );
    if (takes.length < 2) {
      throw new UserError(422, 'A match needs at least two chains with a take each.');
    }
    if (!takes.some(({ chainId }) => chainId === order.referenceChainId)) {
      throw new UserError(
        422,
        'The reference chain has no take here, or is left out; choose another reference.',
      );
    }
    const unknown = takes.filter(({ recordedGainDb }) => recordedGainDb === null);
    if (order.method === 'gain' && unknown.length > 0) {
      const names = unknown.map(({ chainName }) => chainName).join(', ');
      throw new UserError(
        422,
        `Nothing says at which gain these were recorded: ${names}. Write it on the run sheet or into the chain, or match by loudness.`,
      );
    }
    const heard =
      order.method === 'test' ? await withTestSounds(tx, comparisonId, sourceId, takes) : takes;
    const sets = await listClipSets(tx, comparisonId);
    const made: string[] = [];
    for (const context of contexts) {
      const running = sets.find(
        (set) =>
          set.passageId === passageId && set.context === context.kind && set.state === 'waiting',
      );
      if (running) {
        throw new UserError(
          409,
          'A match is being made already; wait for it, then start the next.',
        );
      }
      const backingTakeId = context.kind === 'mix' ? await backingOf(tx, passageId) : undefined;
      if (backingTakeId === null) {
        throw new UserError(
          422,
          'Clips in the mix need a backing track; drop one at Takes and mark it as such.',
        );
      }
      if (context.kind === 'tailored') {
        const without = takes.find(({ chainId }) => !(chainId in context.settings));
        if (without) {
          throw new UserError(422, `${without.chainName} has no settings of its own yet.`);
        }
      }
      const recipe: Recipe = { context, offsets, leftOut, backingTakeId, takes: heard };
      const id = await insertClipSet(tx, comparisonId, { ...order, fromS, toS, recipe }, at);
      const label = `match of “${name}”, ${CONTEXT_WORDS[context.kind]}`;
      const subject = { comparisonId, subjectId: id, label };
      await enqueue(tx, 'render-clips', subject, at, PRIORITIES[context.kind]);
      made.push(id);
    }
    return made;
  });
}

/**
 * Orders new sets of every passage that is marked, with the same choices; a step of the test programme raw alone. What
 * stands in the way of one passage does not hold up the others.
 */
export async function startAllMatches(
  engineer: SignedIn,
  comparisonId: string,
  order: MatchAllOrder,
  at: Date,
): Promise<z.infer<typeof matchedAll>> {
  await comparisonOf(engineer, comparisonId);
  const marked = (await listPassages(db(), comparisonId)).filter(({ fromS }) => fromS !== null);
  if (marked.length === 0) throw new UserError(422, 'Mark a passage on the waveform first.');
  const done: z.infer<typeof matchedAll> = { ids: [], refused: [] };
  for (const { id, name, sourceName, programme } of marked) {
    const contexts = programme === 'performance' ? order.contexts : [{ kind: 'raw' as const }];
    try {
      const made = await startMatch(
        engineer,
        comparisonId,
        { ...order, passageId: id, contexts },
        at,
      );
      done.ids.push(...made);
    } catch (error) {
      if (!(error instanceof UserError)) throw error;
      done.refused.push({ passage: `${sourceName}: ${name}`, reason: error.message });
    }
  }
  return done;
}

/** Takes a match away that was not possible; the takes are as they were. */
export async function removeFailed(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    if (!(await deleteFailedSet(tx, comparisonId, clipSetId))) {
      throw new UserError(
        409,
        'Only a match that was not possible can be removed; this one is kept.',
      );
    }
    await announce(tx, comparisonId);
  });
}

/** What the worker needs to render a set. */
export interface RenderOrder {
  clipSetId: string;
  method: MatchOrder['method'];
  recipe: Recipe;
  referenceIndex: number;
  passageFromS: number;
  passageToS: number;
  takes: SetTake[];
  backing: TakeSource | null;
  seed: number;
}

/**
 * The order of a set, with its takes as they stood when it was given: what is picked or placed meanwhile is for
 * the next one.
 * @returns null when it is done already, or cannot be done any more because a take of it was removed (it says so then)
 */
export async function renderOrder(clipSetId: string): Promise<RenderOrder | null> {
  const set = await findClipSet(db(), clipSetId);
  if (set?.state !== 'waiting') return null;
  const takes = set.recipe.takes ?? (await takesForMatch(db(), set.comparisonId, set.passageId));
  const heard = takes.flatMap(({ audioId, blend }) => [audioId, ...(blend ? [blend.audioId] : [])]);
  if (!(await allThere(db(), set.comparisonId, heard))) {
    const remark = 'A take that it was to be made of was removed meanwhile; match again.';
    await transaction((tx) => failClipSet(tx, clipSetId, remark));
    return null;
  }
  const { backingTakeId } = set.recipe;
  return {
    clipSetId,
    method: set.method,
    recipe: set.recipe,
    referenceIndex: takes.findIndex(({ chainId }) => chainId === set.referenceChainId),
    passageFromS: set.passageFromS,
    passageToS: set.passageToS,
    takes,
    backing: backingTakeId ? await findTake(db(), backingTakeId) : null,
    seed: hash32(clipSetId) >>> 0,
  };
}

export interface RenderedSet {
  result: Omit<MatchResult, 'clips'> & {
    clips: (Omit<Clip, 'chainId' | 'takeId' | 'fileName'> & { master: Uint8Array })[];
  };
  training: Uint8Array[];
  sampleRateHz: number;
  resampled: { chain: string; fromHz: number }[];
  channels: number;
  frames: number;
}

export async function keepRenderedSet(
  order: RenderOrder,
  rendered: RenderedSet,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    const set = await findClipSet(tx, order.clipSetId);
    if (set?.state !== 'waiting') return;
    const { result, sampleRateHz, resampled, channels, frames } = rendered;
    for (const [i, { master, ...clip }] of result.clips.entries()) {
      const { chainId, takeId } = order.takes[i]!;
      const masterAudioId = await putAudio(tx, master, at);
      await insertClip(tx, set, { ...clip, chainId, takeId, masterAudioId });
    }
    for (const [variant, bytes] of rendered.training.entries()) {
      await insertTrainingClip(tx, set.id, variant, await putAudio(tx, bytes, at));
    }
    const { targetLufs, limitedBy, worstResidualLu } = result;
    await finishClipSet(tx, set.id, {
      state: 'ready',
      facts: {
        targetLufs,
        limitedBy,
        worstResidualLu,
        sampleRateHz,
        resampled,
        channels,
        frames,
      },
    });
    await announce(tx, set.comparisonId);
  });
}

/** A set that an older version pictured; null after the last. */
export function staleSet(after: string) {
  return nextToPicture(db(), after);
}

/** Keeps what was pictured anew of a set's clips; their sound never changes. */
export async function keepSpectra(
  set: { id: string; comparisonId: string; clips: { chainId: string }[] },
  spectra: readonly ClipSpectra[],
): Promise<void> {
  await transaction(async (tx) => {
    for (const [i, { chainId }] of set.clips.entries()) {
      await putSpectra(tx, set.id, chainId, spectra[i]!);
    }
    await announce(tx, set.comparisonId);
  });
}

export async function failClipSet(tx: Tx, clipSetId: string, remark: string): Promise<void> {
  const set = await findClipSet(tx, clipSetId);
  if (set?.state !== 'waiting') return;
  await finishClipSet(tx, clipSetId, { state: 'failed', remark });
  await announce(tx, set.comparisonId);
}

/** For the engineer's own ears: the master of a clip of a set of this comparison. */
export async function clipForEngineer(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
  chainId: string,
): Promise<{ audioId: number }> {
  await comparisonOf(engineer, comparisonId);
  const set = await findClipSet(db(), clipSetId);
  const audioId = await clipMaster(db(), clipSetId, chainId);
  if (set?.comparisonId !== comparisonId || audioId === null) throw notFound('clip');
  return { audioId };
}

/** A passage that was removed comes back, with its takes where they were placed. */
export async function restorePassage(
  engineer: SignedIn,
  comparisonId: string,
  passageId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await placeAgain(tx, await takePassageBack(tx, comparisonId, passageId));
  });
}
