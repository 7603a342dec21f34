import { randomUUID } from 'node:crypto';
import type { Observation } from '@/core/statistics/observation';
import {
  commonChains,
  type Together,
  TOGETHER_VERSION,
  togetherSays,
} from '@/core/statistics/reading/together';
import { list } from '@/core/statistics/words';
import { writeResultsFile } from '@/core/statistics/results-file';
import { TASKS } from '@/core/tasks';
import { db, transaction } from '@/platform/database';
import type { Download } from '@/platform/download';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { threads } from '@/platform/threads';
import type { Comparison } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import type { Sitting } from '@/steps/sitting/schema';
import { listSittings, seatedIn } from '@/steps/sitting/store';
import { named, storedTogether, type TogetherOrder } from './schema';
import { FILE_NOTE, SHEETS_NOTE } from './given-as';
import { judgedOf, namesOf, placeHeard, placesHeard, withChainNames } from './service';
import { chainsAsked, findAllClosed, type HeardPart, partsOfSittings } from './store';
import { insertJointReading, type JointReading, listJointReadings } from './together-store';

/** Reads in a thread; tests read where they are. */
export type Reads = (asked: {
  observations: readonly Observation[];
  reference: string;
}) => Together | null | Promise<Together | null>;

const inThread: Reads = async (asked) =>
  (await threads().run(asked, { name: 'readSittingsTogether' })) as Together | null;

interface ReadSitting {
  id: string;
  title: string;
  closedAt: Date | null;
  /** Chains that it asked to choose between, or to place on a line. */
  chainIds: string[];
}

export interface JointView {
  id: string;
  at: Date;
  by: string;
  reason: string;
  reference: string;
  sittings: string[];
  listeners: number;
  /** By name. */
  read: Together;
  says: string[];
  /** What has to be known of single sittings, and of where they were heard. */
  cautions: string[];
}

export interface TogetherView {
  comparison: Comparison;
  sittings: ReadSitting[];
  chains: { id: string; name: string }[];
  readings: { id: string; at: Date; sittings: string[] }[];
  /** The one that is looked at. */
  joint: JointView | null;
}

const NOTHING_COMMON =
  'These sittings have no chain in common that was chosen or placed on a line, so nothing links them. Nothing was written down.';

/** What was judged in each sitting; whoever took part in several is one listener. */
async function judgedTogether(sittingIds: readonly string[]): Promise<Map<string, Observation[]>> {
  const judged = await judgedOf(db(), sittingIds);
  const seated = await seatedIn(db(), sittingIds);
  const panelistOf = new Map(
    seated.flatMap(({ aliasKey, panelistId }) =>
      aliasKey !== null && panelistId !== null ? [[aliasKey, panelistId] as const] : [],
    ),
  );
  const personOf = new Map(
    seated.map(({ listenerId, panelistId, aliasKey }) => {
      const known =
        panelistId ?? (aliasKey === null ? null : (panelistOf.get(aliasKey) ?? aliasKey));
      return [listenerId, known ?? listenerId] as const;
    }),
  );
  return new Map(
    [...judged].map(([id, all]) => [
      id,
      all.map((one) => ({ ...one, listener: personOf.get(one.listener) ?? one.listener })),
    ]),
  );
}

const allJudged = async (sittingIds: readonly string[]) =>
  [...(await judgedTogether(sittingIds)).values()].flat();

/** Titles of sittings, told apart by the day where two are alike. */
function titlesOf(sittings: readonly { id: string; title: string; closedAt: Date | null }[]) {
  const alike = (title: string) => sittings.filter((one) => one.title === title).length > 1;
  return new Map(
    sittings.map(({ id, title, closedAt }) => [
      id,
      alike(title) ? `${title} (${closedAt?.toISOString().slice(0, 16).replace('T', ' ')})` : title,
    ]),
  );
}

/** What of the sittings themselves bears on a reading of them together. */
function cautionsOf(
  sittings: readonly Sitting[],
  titles: ReadonlyMap<string, string>,
  parts: ReadonlyMap<string, HeardPart[]>,
): string[] {
  const placesOf = ({ id }: Sitting) => {
    const heard = (parts.get(id) ?? []).filter(({ task }) => LINKING.includes(TASKS[task].section));
    return [...new Set(heard.map(placeHeard))].sort();
  };
  const [first = [], ...others] = sittings.map(placesOf);
  const elsewhere = others.some((places) => places.join('\n') !== first.join('\n'));
  const each = sittings.flatMap((sitting) => {
    const title = titles.get(sitting.id) ?? '';
    return [
      ...(sitting.simulated
        ? [`In “${title}” the listeners are simulated; nobody heard anything.`]
        : []),
      ...(sitting.reveal === 'after each part'
        ? [`“${title}” is exploratory: names were told after each part.`]
        : []),
      ...(sitting.sealBrokenAt ? [`The seal of “${title}” was broken before it was closed.`] : []),
      ...(sitting.blindPackId ? [`“${title}”: ${SHEETS_NOTE}`] : []),
      ...(sitting.broughtFile ? [`“${title}”: ${FILE_NOTE}`] : []),
    ];
  });
  const where = sittings.map(
    (sitting) => `“${titles.get(sitting.id) ?? ''}”: ${list(placesOf(sitting))}`,
  );
  return elsewhere
    ? [
        `Not the same was heard in all of them (${where.join('; ')}): what differs between the sittings may differ between these places.`,
        ...each,
      ]
    : each;
}

async function closedOf(comparisonId: string) {
  return (await listSittings(db(), comparisonId)).filter(({ state }) => state === 'closed');
}

/** Names of chains as the keys of sittings hold them. */
async function namesIn(sittingIds: readonly string[]): Promise<Map<string, string>> {
  const sittings = await findAllClosed(db(), sittingIds);
  return new Map(sittings.flatMap((sitting) => [...namesOf(sitting)]));
}

/** What a part must ask for, so that its chains can be set against those of another sitting. */
const LINKING: readonly string[] = ['pair', 'rating'];

/** Of each sitting the chains that it asked to choose between, or to place on a line. */
async function linkableIn(sittingIds: readonly string[]): Promise<Map<string, Set<string>>> {
  const linkable = new Map(sittingIds.map((id) => [id, new Set<string>()]));
  for (const { sittingId, task, chainIds } of await chainsAsked(db(), sittingIds)) {
    if (!LINKING.includes(TASKS[task].section)) continue;
    for (const chain of chainIds) linkable.get(sittingId)?.add(chain);
  }
  return linkable;
}

/** Reads what was judged, as it is kept. */
async function readOf(observations: readonly Observation[], reference: string, reads: Reads) {
  const read = await reads({ observations, reference });
  const listeners = new Set(observations.map(({ listener }) => listener)).size;
  return read && { version: TOGETHER_VERSION, listeners, ...read };
}

/**
 * Sittings of any comparisons read together, where chains are the same as others under another id.
 * @param sameAs by id of a chain, what it is taken for; others stay themselves
 * @param reference what the chain that links them is taken for
 * @returns chains as they are taken, sittings by id; null where nothing links them
 */
export async function readThrough(
  sittingIds: readonly string[],
  sameAs: ReadonlyMap<string, string>,
  reference: string,
  reads: Reads = inThread,
): Promise<(Together & { listeners: number }) | null> {
  const observations = await allJudged(sittingIds);
  return readOf(
    observations.map((one) => withChainNames(one, (id) => sameAs.get(id) ?? id)),
    reference,
    reads,
  );
}

/** A reading as it is kept, by name; made anew where another version made it. */
async function jointOf(
  chosen: JointReading,
  names: ReadonlyMap<string, string>,
  titles: ReadonlyMap<string, string>,
  reads: Reads,
): Promise<Omit<JointView, 'cautions'> | null> {
  const { id, at, by, reason, referenceChainId, sittingIds } = chosen;
  const read =
    storedTogether.safeParse(chosen.read).data ??
    (await readOf(await allJudged(sittingIds), referenceChainId, reads));
  if (!read) return null;
  const byName = named<Together>(read, new Map([...names, ...titles]));
  return {
    id,
    at,
    by,
    reason,
    reference: names.get(referenceChainId) ?? referenceChainId,
    sittings: sittingIds.map((one) => titles.get(one) ?? one),
    listeners: read.listeners,
    read: byName,
    says: togetherSays(byName),
  };
}

/**
 * Closed sittings that can be read together, and what was.
 * @param wanted the reading to look at; the newest when null
 */
export async function togetherOf(
  engineer: SignedIn,
  comparisonId: string,
  wanted: string | null,
  reads: Reads = inThread,
): Promise<TogetherView> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const closed = await closedOf(comparisonId);
  const ids = closed.map(({ id }) => id);
  const names = await namesIn(ids);
  const titles = titlesOf(closed);
  const linkable = await linkableIn(ids);
  const kept = await listJointReadings(db(), comparisonId);
  const chosen = kept.find(({ id }) => id === wanted) ?? kept[0];
  const members = closed.filter(({ id }) => chosen?.sittingIds.includes(id));
  const joint = chosen && (await jointOf(chosen, names, titles, reads));
  return {
    comparison,
    sittings: closed.map(({ id, closedAt }) => ({
      id,
      title: titles.get(id) ?? '',
      closedAt,
      chainIds: [...(linkable.get(id) ?? [])],
    })),
    chains: [...names].map(([id, name]) => ({ id, name })),
    readings: kept.map(({ id, at, sittingIds }) => ({
      id,
      at,
      sittings: sittingIds.map((one) => titles.get(one) ?? one),
    })),
    joint: joint
      ? {
          ...joint,
          cautions: cautionsOf(members, titles, await partsOfSittings(db(), chosen.sittingIds)),
        }
      : null,
  };
}

/** The newest reading of a comparison's sittings together; null where there is none. */
export async function newestJoint(
  comparisonId: string,
  reads: Reads = inThread,
): Promise<Omit<JointView, 'cautions'> | null> {
  const [chosen] = await listJointReadings(db(), comparisonId);
  if (!chosen) return null;
  const titles = titlesOf(await closedOf(comparisonId));
  return jointOf(chosen, await namesIn(chosen.sittingIds), titles, reads);
}

/**
 * Reads closed sittings together, and writes down which, against what and why: chosen after the answers were in, so
 * it is told beside the sittings' own results and never in their place.
 * @throws UserError (422) where nothing links them
 */
export async function chooseTogether(
  engineer: SignedIn,
  comparisonId: string,
  { sittingIds, referenceChainId, reason }: TogetherOrder,
  at: Date,
  reads: Reads = inThread,
): Promise<string> {
  await comparisonOf(engineer, comparisonId);
  const closed = (await closedOf(comparisonId)).map(({ id }) => id);
  if (!sittingIds.every((id) => closed.includes(id))) {
    throw new UserError(409, 'Only closed sittings of this comparison can be read together.');
  }
  const judged = await judgedTogether(sittingIds);
  const common = commonChains(sittingIds.map((id) => judged.get(id) ?? []));
  if (common.length === 0) throw new UserError(422, NOTHING_COMMON);
  if (!common.includes(referenceChainId)) {
    throw new UserError(
      422,
      'Not all of these sittings heard that chain; choose one that all of them heard.',
    );
  }
  const observations = sittingIds.flatMap((id) => judged.get(id) ?? []);
  const read = await readOf(observations, referenceChainId, reads);
  if (!read) throw new UserError(422, NOTHING_COMMON);
  const id = randomUUID();
  await transaction(async (tx) => {
    const { accountId } = engineer;
    await insertJointReading(
      tx,
      { id, comparisonId, accountId, referenceChainId, reason, sittingIds, read },
      at,
    );
    await announce(tx, comparisonId);
  });
  return id;
}

/** All judged answers of a reading as one results file, each with its sitting; people are numbered. */
export async function togetherCsv(
  engineer: SignedIn,
  comparisonId: string,
  readingId: string,
): Promise<Download> {
  await comparisonOf(engineer, comparisonId);
  const chosen = (await listJointReadings(db(), comparisonId)).find(({ id }) => id === readingId);
  if (!chosen) throw notFound('reading');
  const titles = titlesOf(await closedOf(comparisonId));
  const parts = await partsOfSittings(db(), chosen.sittingIds);
  const judged = await judgedTogether(chosen.sittingIds);
  const people = new Map<string, string>();
  const names = await namesIn(chosen.sittingIds);
  const nameOf = (id: string) => names.get(id) ?? id;
  const rows = chosen.sittingIds.flatMap((id) => {
    const places = placesHeard(parts.get(id) ?? []);
    return (judged.get(id) ?? []).map((one) => {
      const listener = people.get(one.listener) ?? `listener ${people.size + 1}`;
      people.set(one.listener, listener);
      return {
        ...withChainNames(one, nameOf),
        ...places(one),
        listener,
        sitting: titles.get(id) ?? id,
      };
    });
  });
  return {
    fileName: `answers-together-${readingId.slice(0, 8)}.csv`,
    contentType: 'text/csv; charset=utf-8',
    body: writeResultsFile(rows),
  };
}
