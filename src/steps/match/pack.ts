import type { MatchMethod } from '@/core/matching/methods';
import { randomBytes, randomInt, randomUUID } from 'node:crypto';
import { sha256Hex } from '@/core/design/seal';
import { tellings } from '@/core/design/telling';
import type { CopySeeds } from '@/core/matching/copy';
import { db, transaction } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { record } from '@/platform/events/service';
import { announce } from '@/platform/live';
import { freshSeed } from '@/platform/system-random';
import type { SignedIn } from '@/platform/sign-in/service';
import { threads } from '@/platform/threads';
import { gearNamesOf, listChains } from '@/steps/chains/store';
import { comparisonOf, passageOf } from '@/steps/comparisons/service';
import { keyDocument, packWords } from './pack-format';
import {
  type BlindPack,
  findPack,
  insertPack,
  listPacks,
  markPackOpened,
  type StoredPack,
} from './pack-store';
import { type ClipSet, CONTEXT_WORDS } from './schema';
import type { ClipDetails } from './stored';
import { clipMaster, findClipSet, listClips } from './store';

/** Packs of a comparison as the engineer may see them: without their keys. */
export async function packsOf(engineer: SignedIn, comparisonId: string): Promise<BlindPack[]> {
  await comparisonOf(engineer, comparisonId);
  return listPacks(db(), comparisonId);
}

/** A pack with its key: for reading what came back of it, never for a page. */
export async function packOf(
  engineer: SignedIn,
  comparisonId: string,
  packId: string,
): Promise<StoredPack> {
  await comparisonOf(engineer, comparisonId);
  const pack = await findPack(db(), comparisonId, packId);
  if (!pack) throw notFound('pack');
  return pack;
}

/** SHA-256 of each file of a pack, by its code word. */
type Hashing = (packed: Pick<PackJob, 'clips'>) => Promise<Record<string, string>>;

const hashInThread: Hashing = async (packed) =>
  (await threads().run(packed, { name: 'hashPackClips' })) as Record<string, string>;

/**
 * Draws code words for a set, has the files made for their hashes, seals the key, and keeps both; the zip is made
 * when it is fetched, of the same seeds and so to the same bytes.
 */
export async function makePack(
  engineer: SignedIn,
  comparisonId: string,
  clipSetId: string,
  { question }: { question: string },
  at: Date,
  hashes: Hashing = hashInThread,
): Promise<string> {
  await comparisonOf(engineer, comparisonId);
  const set = await findClipSet(db(), clipSetId);
  if (set?.comparisonId !== comparisonId) throw notFound('set of clips');
  if (set.state !== 'ready' || !set.facts) {
    throw new UserError(409, 'A pack needs clips that are made and verified; wait for them.');
  }
  const chains = await listChains(db(), comparisonId);
  const gear = await gearNamesOf(
    db(),
    chains.map(({ id }) => id),
  );
  const names = [...chains.map(({ name }) => name), ...gear];
  const told = tellings(question, names).find(({ certain }) => certain);
  if (told) {
    throw new UserError(
      422,
      `Listeners would read “${told.words}”, which stands for “${told.name}”; take it out of the question.`,
    );
  }
  const clips = await listClips(db(), clipSetId);
  const drawn = packWords(clips.length, (below) => randomInt(below));
  const words = Object.fromEntries(clips.map(({ chainId }, i) => [chainId, drawn[i]!]));
  const seeds = {
    trial: freshSeed(),
    clips: Object.fromEntries(clips.map(({ chainId }) => [chainId, freshSeed()])),
  };
  const hashOf = await hashes({ clips: await packedClips(set, words, seeds) });
  const nameOf = (id: string) => chains.find((chain) => chain.id === id)?.name ?? id;
  return transaction(async (tx) => {
    const id = randomUUID();
    const document = keyDocument({
      document: 'zeitbank blind pack key 2',
      pack: id,
      clips: clips.map(({ chainId }) => ({
        word: words[chainId]!,
        chain: nameOf(chainId),
        sha256: hashOf[words[chainId]!]!,
      })),
      nonce: randomBytes(32).toString('hex'),
    });
    const seal = await sha256Hex(document);
    const pack = { id, clipSetId, question, seal, keyDocument: document, words, seeds };
    await insertPack(tx, comparisonId, pack, at);
    await announce(tx, comparisonId);
    return id;
  });
}

/** A clip on its way into a pack. */
export interface PackedClip {
  word: string;
  audioId: number;
  seeds: CopySeeds;
  /** What the copy must read, null when no loudness was matched. */
  levelLufs: number | null;
}

/** The loudness that a copy of a clip must read; null when no loudness was matched. */
export function levelOfCopy(
  { method, facts }: Pick<ClipSet, 'method' | 'facts'>,
  { onPurposeDb }: Pick<ClipDetails, 'onPurposeDb'>,
): number | null {
  return method === 'loudness' && facts ? facts.targetLufs + (onPurposeDb ?? 0) : null;
}

async function packedClips(
  { id: clipSetId, method, facts }: ClipSet,
  words: Record<string, string>,
  seeds: { trial: string; clips: Record<string, string> },
): Promise<PackedClip[]> {
  const clips = [];
  for (const { chainId, details } of await listClips(db(), clipSetId)) {
    const audioId = await clipMaster(db(), clipSetId, chainId);
    if (audioId === null) throw notFound('clip');
    const own = { trial: seeds.trial, clip: seeds.clips[chainId]! };
    const levelLufs = levelOfCopy({ method, facts }, details);
    clips.push({ word: words[chainId]!, audioId, seeds: own, levelLufs });
  }
  return clips;
}

/** What the thread needs to write the zip. */
export interface PackJob {
  title: string;
  question: string;
  seal: string;
  level: { method: MatchMethod; target: number };
  clips: PackedClip[];
}

export async function packJob(
  engineer: SignedIn,
  comparisonId: string,
  packId: string,
): Promise<PackJob> {
  const pack = await packOf(engineer, comparisonId, packId);
  const set = await findClipSet(db(), pack.clipSetId);
  if (!set?.facts) throw notFound('set of clips');
  const passage = await passageOf(db(), comparisonId, set.passageId);
  const own = `${passage.sourceName}, ${passage.name}`;
  const clips = await packedClips(set, pack.words, pack.seeds);
  return {
    title: set.context === 'raw' ? own : `${own}, ${CONTEXT_WORDS[set.context]}`,
    question: pack.question,
    seal: pack.seal,
    level: { method: set.method, target: set.facts.targetLufs },
    clips,
  };
}

/** Hands the key out, and records when that was done first. */
export async function openPackKey(
  engineer: SignedIn,
  comparisonId: string,
  packId: string,
  at: Date,
): Promise<string> {
  const pack = await packOf(engineer, comparisonId, packId);
  await transaction(async (tx) => {
    await markPackOpened(tx, packId, at);
    await announce(tx, comparisonId);
    await record(tx, engineer, 'pack key', { comparisonId }, at);
  });
  return pack.keyDocument;
}
