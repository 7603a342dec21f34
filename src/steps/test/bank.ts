import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { performance as perform } from '@/core/simulation/instruments';
import { MICROPHONES } from '@/core/simulation/microphones';
import { PREAMPS } from '@/core/simulation/preamps';
import { recordTake, SMALL_STUDIO } from '@/core/simulation/record';
import { encodeWav } from '@/core/wav/write';
import { CHUNK_BYTES, createAudio, writeChunk } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import type { Random } from '@/core/signal/random';
import { systemRandom } from '@/platform/system-random';
import { NOON } from '@/platform/test/database';
import { one } from '@/platform/one';
import { addChain } from '@/steps/chains/service';
import { changePassage, createComparison } from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import type { MatchOrder } from '@/steps/match/schema';
import { keepRenderedSet, type RenderOrder, renderOrder, startMatch } from '@/steps/match/service';
import { listClipSets } from '@/steps/match/store';
import type { Arrival } from '@/steps/listening/service';
import { openSitting, planSitting } from '@/steps/sitting/service';
import { type PartDraft, PLAIN_PLAN, type SittingDraft } from '@/steps/sitting/schema';
import { listSittings } from '@/steps/sitting/store';
import { keepInspection, receiveTake } from '@/steps/takes/service';
import { findTake, listTakes } from '@/steps/takes/store';
import type { Run } from '@/worker/jobs/job';
import { renderSet } from '@/worker/rendering';
import * as tasks from '@/worker/tasks';

export const RATE = 16000;
export const CHAIN_NAMES = ['Kern 40', 'Halde T2', 'Ostra R1'];

/** Stores bytes as a received take and inspects it, as the worker would. */
export async function deliverTake(
  comparisonId: string,
  fileName: string,
  bytes: Uint8Array,
): Promise<string> {
  const before = new Set((await listTakes(db(), comparisonId)).map(({ id }) => id));
  await transaction(async (tx) => {
    const audioId = await createAudio(tx, bytes.length, NOON);
    for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++) {
      const start = seq * CHUNK_BYTES;
      await writeChunk(tx, audioId, seq, Buffer.from(bytes.subarray(start, start + CHUNK_BYTES)));
    }
    await receiveTake(tx, { comparisonId, audioId, fileName }, NOON);
  });
  const take = (await listTakes(db(), comparisonId)).find(({ id }) => !before.has(id));
  if (!take) throw new Error('no take was made');
  await inspected(take.id);
  return take.id;
}

/** Inspects a take that waits, as the worker would. */
export async function inspected(takeId: string): Promise<void> {
  const take = await findTake(db(), takeId);
  if (!take) throw new Error('there is no such take');
  const { audioId, channels } = take;
  await keepInspection(takeId, await tasks.inspectTake({ audioId, channels }), NOON);
}

/** Marks the comparison's own passage. */
export async function markPassage(
  engineer: SignedIn,
  comparisonId: string,
  change: { fromS: number; toS: number },
): Promise<string> {
  const { id } = await one(listPassages(db(), comparisonId));
  await changePassage(engineer, comparisonId, id, change);
  return id;
}

/** Orders a match of the comparison's own passage: raw and by loudness unless told otherwise. */
export async function orderMatch(
  engineer: SignedIn,
  comparisonId: string,
  referenceChainId: string,
  change: Partial<MatchOrder> = {},
  at = NOON,
): Promise<string> {
  const { id: passageId } = await one(listPassages(db(), comparisonId));
  const setId = await one(
    startMatch(
      engineer,
      comparisonId,
      {
        passageId,
        method: 'loudness',
        referenceChainId,
        contexts: [{ kind: 'raw' }],
        offsets: {},
        leftOut: [],
        ...change,
      },
      at,
    ),
  );
  return setId;
}

/** Takes of this run of the tests, each simulated once; whoever starts a run clears it. */
const KEPT = path.resolve('.zeitbank/jest-takes');

/** A simulated take of one of the made-up microphones. */
export function takeBytes(index: number): Uint8Array {
  const file = path.join(KEPT, `${index}.wav`);
  if (existsSync(file)) return readFileSync(file);
  const samples = recordTake(perform('clarinet', RATE, 1), RATE, {
    microphone: MICROPHONES[index]!,
    preamp: PREAMPS[0]!,
    gainDb: [36, 38, 58][index]!,
    distanceM: 0.3 + 0.02 * index,
    angleDeg: 0,
    room: SMALL_STUDIO,
    polarityInverted: index === 2,
    seed: index,
  });
  const bytes = encodeWav([samples], RATE, 24);
  mkdirSync(KEPT, { recursive: true });
  // In one step, for a test file beside this one.
  const making = `${file}.${process.pid}`;
  writeFileSync(making, bytes);
  renameSync(making, file);
  return bytes;
}

/** A comparison with three chains and their takes. */
export async function bankWithTakes(
  engineer: SignedIn,
): Promise<{ comparisonId: string; chainIds: string[] }> {
  const comparisonId = await createComparison(
    engineer,
    { title: 'Clarinet', question: '', sourceName: 'Clarinet', passageName: 'bridge' },
    NOON,
  );
  const chainIds: string[] = [];
  for (const name of CHAIN_NAMES) {
    chainIds.push(await addChain(engineer, comparisonId, { name, items: '', priceCents: null }));
  }
  for (const [i, name] of CHAIN_NAMES.entries()) {
    await deliverTake(comparisonId, `${name}.wav`, takeBytes(i));
  }
  return { comparisonId, chainIds };
}

let before: Promise<unknown> = Promise.resolve();

/** One after another, as in a thread: while one computes, no other waits for a connection. */
export const inThisThread: Run = (name, task) => {
  const work = (tasks as unknown as Record<string, (task: object) => Promise<never> | never>)[
    name
  ]!;
  const done = before.then(() => work(task));
  before = done.catch(() => undefined);
  return done;
};

/** A set as the worker makes it. */
export const rendered = (order: RenderOrder) => renderSet(order, inThisThread, () => undefined);

/** The same, matched over a short passage. */
export async function bankWithClips(
  engineer: SignedIn,
): Promise<{ comparisonId: string; chainIds: string[]; clipSetId: string }> {
  const bank = await bankWithTakes(engineer);
  await markPassage(engineer, bank.comparisonId, { fromS: 2, toS: 5 });
  const clipSetId = await orderMatch(engineer, bank.comparisonId, bank.chainIds[0]!);
  const todo = await renderOrder(clipSetId);
  if (!todo) throw new Error('nothing to render');
  const made = await rendered(todo);
  if ('refused' in made) throw new Error(made.refused);
  await keepRenderedSet(todo, made, NOON);
  return { ...bank, clipSetId };
}

/** Where listeners of tests join from. */
export const HERE: Arrival = { place: 'here', seats: [] };

/** Three trials of pairs without controls, until told otherwise. */
export async function testPlan(
  comparisonId: string,
  change: Partial<SittingDraft> = {},
  ...parts: Partial<PartDraft>[]
): Promise<SittingDraft> {
  const sets = await listClipSets(db(), comparisonId);
  const clipSetId = sets.find(({ state }) => state === 'ready')?.id ?? '';
  const pairs: PartDraft = {
    task: 'pair',
    clipSetId,
    prompt: 'Which suits this part better?',
    tiesAllowed: true,
    trials: 3,
    pair: null,
    controls: { self: false, levelCatch: false, repeats: 0 },
    adaptive: false,
    words: [],
  };
  return {
    title: 'Clarinet, bridge',
    seats: 4,
    ...PLAIN_PLAN,
    parts: (parts.length > 0 ? parts : [{}]).map((part) => ({ ...pairs, ...part })),
    ...change,
  };
}

/** An open sitting and its link's secret. */
export async function openTestSitting(
  engineer: SignedIn,
  comparisonId: string,
  change: Partial<SittingDraft> = {},
  ...parts: Partial<PartDraft>[]
): Promise<{ sittingId: string; token: string; seal: string }> {
  return openDrawn(engineer, comparisonId, systemRandom(), change, ...parts);
}

/** The same, with orders drawn from what is given, where a test depends on who heard which pair when. */
export async function openDrawn(
  engineer: SignedIn,
  comparisonId: string,
  random: Random,
  change: Partial<SittingDraft> = {},
  ...parts: Partial<PartDraft>[]
): Promise<{ sittingId: string; token: string; seal: string }> {
  const plan = await testPlan(comparisonId, change, ...parts);
  const sittingId = await planSitting(engineer, comparisonId, plan, NOON);
  const { seal } = await openSitting(engineer, comparisonId, sittingId, plan, NOON, random);
  const sitting = (await listSittings(db(), comparisonId)).find(({ id }) => id === sittingId);
  return { sittingId, token: sitting?.token ?? '', seal };
}
