import { isDeepStrictEqual } from 'node:util';
import { type Db, db, transaction, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { record } from '@/platform/events/service';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { showTo } from '@/platform/sign-in/store';
import { AWAITED } from './carried';
import {
  type ArrivingFile,
  type Written,
  type Comparison,
  type ComparisonChange,
  type ComparisonDraft,
  newPassage,
  type NewPassageInput,
  type Passage,
  ROOM_TEMPERATURE_C,
  type Source,
  type SourceDraft,
} from './schema';
import {
  briefOf,
  binPassage,
  binSource,
  findComparison,
  comparisonsNamed,
  insertComparison,
  titlesOf,
  insertPassage,
  insertSource,
  listPassages,
  listSources,
  markDeleted,
  unbinPassage,
  unbinSource,
  standsAgainstDeleting,
  updateComparison,
  updatePassage,
  updateSource,
} from './store';

/** Two windows wrote the same thing: the later one is told, nothing is overwritten. */
export const CHANGED_ELSEWHERE =
  'This was changed in another window meanwhile; that version is kept. Look at it, then write yours again.';

const SEALED =
  'A sitting is open: the question, its contexts, what would count as nothing and the prediction are sealed with it, and can be written anew when it is closed. Nothing was changed.';

/** Whether something changes that is sealed with a sitting. */
function resealed(now: Written, before: Written): boolean {
  const sealed = ({ question, brief }: Written) => {
    const { contexts, nullHypothesis, smallestSharePct, prediction } = brief;
    return { question, contexts, nullHypothesis, smallestSharePct, prediction };
  };
  return !isDeepStrictEqual(sealed(now), sealed(before));
}

export async function createComparison(
  engineer: SignedIn,
  draft: ComparisonDraft,
  at: Date,
  simulated = false,
): Promise<string> {
  return transaction(async (tx) => {
    const id = await insertComparison(tx, engineer.studioId, draft, simulated, at);
    await showTo(tx, engineer.accountId, [id]);
    return id;
  });
}

/** A place for a whole comparison whose archive is sent next; until then it is like any other. */
export async function awaitArrival(
  engineer: SignedIn,
  { fileName }: ArrivingFile,
  at: Date,
): Promise<string> {
  const title = fileName.replace(/\.zip$/i, '').slice(0, 120);
  return transaction(async (tx) => {
    const draft = { ...AWAITED, title, question: '' };
    const id = await insertComparison(tx, engineer.studioId, draft, false, at);
    await showTo(tx, engineer.accountId, [id]);
    const told = { about: fileName.slice(0, 300), comparisonId: id };
    await record(tx, engineer, 'comparison brought in', told, at);
    return id;
  });
}

/** The comparison, if this engineer may see it. */
export async function comparisonOf(engineer: SignedIn, id: string): Promise<Comparison> {
  const comparison = await findComparison(db(), id, engineer.accountId);
  if (!comparison) throw notFound('comparison');
  return comparison;
}

export async function changeComparison(
  engineer: SignedIn,
  id: string,
  { version, brief, sources, ...draft }: ComparisonChange,
  at: Date,
): Promise<void> {
  const before = await comparisonOf(engineer, id);
  const now = brief ?? before.brief;
  const predicted = isDeepStrictEqual(now.prediction, before.brief.prediction)
    ? before.brief.predictedAt
    : at.toISOString();
  await transaction(async (tx) => {
    const written = { question: draft.question, brief: now };
    if (resealed(written, before) && (await standsAgainstDeleting(tx, id)).openSittings > 0) {
      throw new UserError(409, SEALED);
    }
    if (!(await updateComparison(tx, id, draft, { ...now, predictedAt: predicted }, version))) {
      throw new UserError(409, CHANGED_ELSEWHERE);
    }
    if (sources) await keepSources(tx, id, sources, at);
    await announce(tx, id);
  });
}

/** Sources as they were written down; one that is left out goes if nothing belongs to it. */
async function keepSources(
  tx: Tx,
  comparisonId: string,
  drafts: readonly SourceDraft[],
  at: Date,
): Promise<void> {
  const before = await listSources(tx, comparisonId);
  if (drafts.some((draft) => draft.id !== null && !before.some(({ id }) => id === draft.id))) {
    throw new UserError(
      409,
      'A source was removed in another window meanwhile; nothing was changed. Look at it, then write yours again.',
    );
  }
  for (const [position, { id, ...draft }] of drafts.entries()) {
    if (id === null) await insertSource(tx, comparisonId, draft, position);
    else await updateSource(tx, { id, ...draft }, position);
  }
  for (const { id, name } of before) {
    if (drafts.some((draft) => draft.id === id) || (await binSource(tx, id, at))) continue;
    throw new UserError(
      409,
      `Takes, passages or lines of the run sheet belong to “${name}”, so it stays; give them another source or remove them first. Nothing was changed.`,
    );
  }
}

/** Can be undone; refused while answers or an open sitting depend on it. */
export async function removeComparison(engineer: SignedIn, id: string, at: Date): Promise<void> {
  const { title } = await comparisonOf(engineer, id);
  await transaction(async (tx) => {
    const { answers, openSittings } = await standsAgainstDeleting(tx, id);
    if (answers > 0) {
      throw new UserError(
        409,
        `${answers} answers of listeners belong to “${title}”; their minutes are kept, so it stays.`,
      );
    }
    if (openSittings > 0) {
      throw new UserError(
        409,
        `A sitting of “${title}” is open; close it first. Nothing was changed.`,
      );
    }
    await markDeleted(tx, id, engineer.accountId, at);
    await announce(tx, id);
  });
}

export async function restoreComparison(engineer: SignedIn, id: string): Promise<void> {
  if (!(await markDeleted(db(), id, engineer.accountId, null))) throw notFound('comparison');
}

/** The sources of a comparison, for steps that work for any engineer. */
export async function sourcesOf(
  from: Db,
  id: string,
): Promise<{ sources: Source[]; temperatureC: number }> {
  const { temperatureC } = await briefOf(from, id);
  return {
    sources: await listSources(from, id),
    temperatureC: temperatureC ?? ROOM_TEMPERATURE_C,
  };
}

/** The same for an engineer who may see the comparison. */
export async function sourcesSeen(engineer: SignedIn, id: string): Promise<Source[]> {
  await comparisonOf(engineer, id);
  return listSources(db(), id);
}

/** A source of this comparison; its own when none is named. */
export async function sourceOf(
  from: Db,
  comparisonId: string,
  sourceId: string | null,
): Promise<Source> {
  const sources = await listSources(from, comparisonId);
  const found = sourceId === null ? sources[0] : sources.find(({ id }) => id === sourceId);
  if (!found) throw notFound('source');
  return found;
}

const FIRST_STAYS =
  'The first passage and passages that clips were made of stay; others can be removed.';

export async function addPassage(
  engineer: SignedIn,
  comparisonId: string,
  input: NewPassageInput,
): Promise<string> {
  const { sourceId, ...passage } = newPassage.parse(input);
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    const source = await sourceOf(tx, comparisonId, sourceId);
    const id = await insertPassage(tx, comparisonId, { ...passage, sourceId: source.id });
    await announce(tx, comparisonId);
    return id;
  });
}

/** A passage of this comparison. */
export async function passageOf(
  from: Db,
  comparisonId: string,
  passageId: string,
): Promise<Passage> {
  const passage = (await listPassages(from, comparisonId)).find(({ id }) => id === passageId);
  if (!passage) throw notFound('passage');
  return passage;
}

/** Marks a passage, or names it anew; what is left out stays. */
export async function changePassage(
  engineer: SignedIn,
  comparisonId: string,
  passageId: string,
  change: { name?: string; fromS?: number; toS?: number },
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    const before = await passageOf(tx, comparisonId, passageId);
    await updatePassage(tx, comparisonId, { ...before, ...change });
    await announce(tx, comparisonId);
  });
}

export async function removePassage(
  engineer: SignedIn,
  comparisonId: string,
  passageId: string,
  at: Date,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await passageOf(tx, comparisonId, passageId);
    if (!(await binPassage(tx, comparisonId, passageId, at))) throw new UserError(409, FIRST_STAYS);
    await announce(tx, comparisonId);
  });
}

/** A source that was removed comes back, behind the others. */
export async function restoreSource(
  engineer: SignedIn,
  comparisonId: string,
  sourceId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    if (!(await unbinSource(tx, comparisonId, sourceId))) throw notFound('source');
    await announce(tx, comparisonId);
  });
}

/** A passage that was removed comes back, behind the others. @returns what was placed in it, for whoever places takes */
export async function takePassageBack(
  tx: Tx,
  comparisonId: string,
  passageId: string,
): Promise<unknown> {
  const back = await unbinPassage(tx, comparisonId, passageId);
  if (!back) throw notFound('passage');
  await announce(tx, comparisonId);
  return back.placings;
}

/** The first comparisons by name, for whoever picks some. */
export async function comparisonsFound(
  engineer: SignedIn,
  q: string,
): Promise<{ id: string; name: string }[]> {
  return comparisonsNamed(db(), engineer.accountId, q);
}

/** Names of comparisons that are known by their ids. */
export async function namesOfComparisons(
  engineer: SignedIn,
  ids: readonly string[],
): Promise<{ id: string; name: string }[]> {
  return titlesOf(db(), engineer.accountId, ids);
}
