import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { z } from 'zod';
import { sha256Hex } from '@/core/design/seal';
import { NO_RULE } from '@/core/design/set-aside-rule';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import {
  type Heard,
  type Observation,
  type Role,
  withReplicates,
} from '@/core/statistics/observation';
import { once } from '@/core/statistics/once';
import { writeResultsFile } from '@/core/statistics/results-file';
import type { ChainMake } from '@/core/statistics/chains-file';
import { claimsOf, holds } from '@/core/statistics/claims';
import type { AnsweredPart } from '@/core/statistics/reading/answers';
import type { ReadingPlan } from '@/core/statistics/reading/plan-file';
import { type SightedShift, sightedShift } from '@/core/statistics/sighted';
import { type Listened, setAside, type SetAside } from '@/core/statistics/set-aside';
import { findingsOf, SECTIONS } from '@/core/statistics/sections';
import { type Findings, plainly } from '@/core/statistics/findings';
import { list } from '@/core/statistics/words';
import { TASKS } from '@/core/tasks';
import { unevenlyHeard } from '@/core/tasks/even';
import { medianOf } from '@/core/statistics/percentile';
import type { TaskId } from '@/core/tasks';
import { type Db, db, transaction } from '@/platform/database';
import { type Download, jsonFile } from '@/platform/download';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { madeOf } from '@/steps/chains/service';
import { gearNamesOf } from '@/steps/chains/store';
import type { Comparison } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { CONTEXT_KINDS, CONTEXT_WORDS } from '@/steps/match/schema';
import { packOf } from '@/steps/match/pack';
import { listClips } from '@/steps/match/store';
import {
  anySealedKey,
  type NamedListening,
  sealedPlan,
  type SealedQuestion,
  type SittingListener,
} from '@/steps/sitting/schema';
import { baselinesOf } from '@/steps/takes/takes-view';
import { readAgain } from '@/steps/sitting/service';
import {
  listListeners,
  listNamedListening,
  listSittings,
  markStandings,
  storeAnalysis,
} from '@/steps/sitting/store';
import { type Across, acrossOf, MOST_LISTENERS } from './across';
import { readingPlanOf } from './question';
import { named, type PartAnalysis, readStored, type StoredAnalysis } from './schema';
import {
  type AnswerRow,
  broughtCsv,
  type ClosedSitting,
  findClosed,
  findReadable,
  guessesOf,
  type HeardPart,
  listAnswers,
  listAnswersOf,
  listSealedClips,
  listSightedOf,
  partsOfSitting,
  partsOfSittings,
  trialsOfSeats,
  lacksStandings,
  storeStandings,
} from './store';
import { type Standing, STANDINGS, standingsOf } from './standings';
import { earsIn, NO_EARS, type PanelEars } from './ears';
import { FILE_NOTE, SHEETS_NOTE } from './given-as';
import { levelNotes, variantNotes } from './heard-as';
import { type ListenerRemark, remarksOf } from './remarks';
import { type SecondReading, secondReading } from './second-reading';

const BOOTSTRAP_SEED = 1;
const UNEVEN =
  'No verdict: in this room something stood in one place more often than in another, so a liking for a place would pass for a difference.';
const CLOSED_FIRST = 'Results open when the sitting is closed; until then nobody can look.';

export interface ResultsView {
  comparison: Comparison;
  sittings: { id: string; title: string; state: string; closedAt: Date | null }[];
  /** The chosen closed sitting; null when there is none. */
  result: Result | null;
}

export interface ResultPart {
  number: number;
  task: TaskId;
  prompt: string;
  /** Source, passage and context, in words. */
  heard: string;
  analysis: PartAnalysis;
  findings: Findings;
  /** Sealed as the part that is judged by itself. */
  primary: boolean;
  /** Whether its headline holds; single pairs, words and candidates are claimed only then. */
  claimed: boolean;
  /** What its controls show, apart. */
  controls: string[];
}

/** Where answers came from that were not given here. */
export interface FromPack {
  madeAt: Date;
  /** When the key was handed out, if that was before the answers came in. */
  keyOutAt: Date | null;
}

export interface Result {
  sittingId: string;
  ears: PanelEars;
  title: string;
  simulated: boolean;
  closedAt: Date;
  seal: string;
  sealHolds: boolean;
  /** Version of the analysis that was sealed, where it is another than the one that reads. */
  sealedReading: number | null;
  /** When and why somebody opened the key before closing. */
  sealBroken: { at: Date; reason: string } | null;
  /** Names were told after each part: how many answers came too late to count; null where they were not. */
  exploratory: { afterNames: number } | null;
  /** What names and prices changed, where pairs were heard again with both; never mixed into anything else. */
  sighted: SightedShift | null;
  /** Where the answers came back in the sheets of a blind pack; seal and key are then the pack's. */
  fromPack: FromPack | null;
  /** Where it was brought in from a file of another program: nothing of it was sealed here. */
  fromFile: { file: string; sha256: string } | null;
  listeners: number;
  answers: number;
  chains: string[];
  /** The same chains by what they are known by in the bank. */
  chainIds: string[];
  room: 'own' | 'together';
  /** What was to be done with the answers, in words, as it was sealed. */
  analysisPlan: string;
  /** What each chain is made of and costs, as it stood when the answers were read. */
  made: (ChainMake & { chain: string })[];
  /** Null while they are being read. */
  parts: ResultPart[] | null;
  /** What they say together; null while they are being read, and where nobody answered. */
  across: Across | null;
  /** The same without whom the sealed rule sets aside; null where no rule was sealed, while they are being read, and on pages that do not show it. */
  second: SecondReading | null;
  /** How many listeners answered at all. */
  paceOf: number;
  /** Of each of them, or of some of many: median seconds per trial, answers, and how many were hasty. */
  pace: {
    listener: string;
    answers: number;
    medianS: number;
    hasty: number;
    /** Answers before which some sound was never sent. */
    unfetched: number;
    devices: number;
    /** Whose browser this was before, as far as it is known. */
    sameAs: string | null;
  }[];
  /** What listeners said in their own words, in the order of the trials. */
  remarks: ListenerRemark[];
  /** How chains that were heard differ, against two takes of one of them; empty where none was recorded twice. */
  baselines: Awaited<ReturnType<typeof baselinesOf>>;
  /** Who listened by name while it was open. */
  namedListening: NamedListening[];
  /** At which levels clips were heard, and what variants among them were, in sentences. */
  heardAs: string[];
  /** The clips that were heard, as they were sealed. */
  clips: { part: number; chain: string; sha256: string }[];
}

/** The seal that was shown before anybody answered, the text it is made of, and the pack that it may stand in. */
async function sealedAs(
  engineer: SignedIn,
  { comparisonId, blindPackId, seal, sealedKey, closedAt }: ClosedSitting,
): Promise<{ seal: string; document: string; fromPack: FromPack | null }> {
  if (blindPackId === null) return { seal: seal ?? '', document: sealedKey ?? '', fromPack: null };
  const pack = await packOf(engineer, comparisonId, blindPackId);
  const early = pack.openedAt !== null && closedAt !== null && pack.openedAt < closedAt;
  return {
    seal: pack.seal,
    document: pack.keyDocument,
    fromPack: { madeAt: pack.createdAt, keyOutAt: early ? pack.openedAt : null },
  };
}

/** The file of another program that a sitting came from. */
function fileOf({ broughtFile: file, broughtSha256: sha256 }: ClosedSitting): Result['fromFile'] {
  return file === null || sha256 === null ? null : { file, sha256 };
}

/** The file that a sitting was brought in from, as it came. */
export async function broughtFile(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  await closedSitting(engineer, comparisonId, sittingId);
  const csv = await broughtCsv(db(), sittingId);
  if (!csv) throw notFound('file');
  return {
    fileName: `brought-in-${sittingId.slice(0, 8)}.csv`,
    contentType: 'text/csv; charset=utf-8',
    body: csv.toString('utf8'),
  };
}

/** A key of a large sitting has megabytes, and much is asked of it. */
const keyOf = once(({ sealedKey }: ClosedSitting) =>
  anySealedKey.parse(JSON.parse(sealedKey ?? '')),
);

/** Names of chains as the key holds them. */
export function namesOf(sitting: ClosedSitting): Map<string, string> {
  return new Map(keyOf(sitting).chains.map(({ id, name }) => [id, name]));
}

/** Keys of before told no version. */
const FIRST_TOLD = 2;

function sealedReading(sitting: ClosedSitting): number | null {
  const key = keyOf(sitting);
  const version = ('analysisVersion' in key ? key.analysisVersion : undefined) ?? FIRST_TOLD;
  return version === ANALYSIS_PLAN.version ? null : version;
}

/** What of the sealed plan the reading follows; older keys say less. */
function planOf(sitting: ClosedSitting): z.infer<typeof sealedPlan> {
  const key = keyOf(sitting);
  return ('plan' in key && sealedPlan.safeParse(key.plan).data) || {};
}

/** Whether something stood in one place of a room more often than in another: whoever leans there leans together. */
function unevenRoom({ task }: HeardPart, answers: readonly AnswerRow[]): boolean {
  const heard = new Map<number, AnswerRow>();
  for (const answer of answers) if (answer.kind === 'judged') heard.set(answer.position, answer);
  return unevenlyHeard(
    TASKS[task],
    [...heard.values()].map(({ clips, rightSlot }) => ({
      chains: clips.map(({ chainId }) => chainId),
      right: rightSlot,
    })),
  );
}

/** An observation, and the answer it was made of. */
interface Observed {
  answer: AnswerRow;
  observation: Observation;
}

/** What was said when names had been told, or stood there, is kept apart from everything blind. */
function roleOf(answer: AnswerRow, { role }: Heard): Role {
  if ('shown' in answer) return 'sighted';
  return answer.afterNames ? 'told' : role;
}

/** Answers that count: those before anybody was told the names of their part. */
const counted = (answers: readonly AnswerRow[]) => answers.filter(({ afterNames }) => !afterNames);

/** What the answers of a sitting say, by ids. */
export function observationsOf(
  sittingId: string,
  parts: readonly HeardPart[],
  answers: readonly AnswerRow[],
): Observed[] {
  const chainsOf = ({ clips }: AnswerRow) => clips.map(({ chainId }) => chainId);
  const learning = new Map(
    answers.flatMap((one) => (one.kind === 'learning' ? [[placeOf(one), chainsOf(one)]] : [])),
  );
  const heard = answers.flatMap((answer) => {
    const part = parts.find(({ number }) => number === answer.part);
    if (!part) return [];
    const trial = {
      kind: answer.kind,
      chains: chainsOf(answer),
      right: answer.rightSlot,
      learned: learning.get(placeOf(answer)) ?? [],
      gainsDb: answer.clips.map(({ gainDb }) => gainDb),
    };
    const where = {
      listener: answer.listenerId,
      source: part.sourceId,
      passage: part.passageId,
      context: part.context,
      sitting: sittingId,
      part: `${part.number}`,
      trial: `${answer.position}`,
    };
    return TASKS[part.task]
      .observe(answer.answer, trial)
      .map((said) => ({ answer, observation: { ...where, ...said, role: roleOf(answer, said) } }));
  });
  const numbered = withReplicates(heard.map(({ observation }) => observation));
  return heard.map(({ answer }, i) => ({ answer, observation: numbered[i]! }));
}

/** What was judged in each of many closed sittings. */
export async function judgedOf(
  from: Db,
  sittingIds: readonly string[],
): Promise<Map<string, Observation[]>> {
  const parts = await partsOfSittings(from, sittingIds);
  const answers = await listAnswersOf(from, sittingIds);
  return new Map(
    sittingIds.map((id) => {
      const observed = observationsOf(id, parts.get(id) ?? [], answers.get(id) ?? []);
      const all = observed.map(({ observation }) => observation);
      return [id, all.filter(({ role }) => role === 'judged')];
    }),
  );
}

/** A listener's part: what is learned by heart is learned once in each. */
const placeOf = ({ seat, part }: AnswerRow) => `${seat}/${part}`;

/** What the worker analyses. */
export interface AnalysisOrder {
  seed: number;
  /** What was written down before anybody listened, as it was sealed. */
  plan: ReadingPlan;
  /** What each chain is made of and costs, as it stands now. */
  chains: [id: string, made: ChainMake][];
  /** Whom the sealed rule sets aside in a second reading. */
  aside: SetAside[];
  parts: {
    number: number;
    task: TaskId;
    answers: number;
    /** Of those who are not set aside. */
    answersLeft: number;
    observations: Observation[];
  }[];
}

/** How each listener who answered at all listened. */
function listenedOf(
  answers: readonly AnswerRow[],
  trials: ReadonlyMap<number, number>,
): Listened[] {
  const of = new Map<string, Listened>();
  for (const { listenerId: listener, seat, hasty } of answers) {
    const known = of.get(listener) ?? {
      listener,
      trials: trials.get(seat) ?? 0,
      answers: 0,
      hasty: 0,
    };
    of.set(listener, {
      ...known,
      answers: known.answers + 1,
      hasty: known.hasty + Number(hasty),
    });
  }
  return [...of.values()];
}

/** What was answered in a closed sitting, for a worker to read. */
export async function answersToRead(sitting: ClosedSitting): Promise<AnalysisOrder> {
  const { id: sittingId } = sitting;
  const answers = await listAnswers(db(), sittingId);
  const parts = await partsOfSitting(db(), sittingId);
  const observed = observationsOf(sittingId, parts, answers);
  const { question, setAside: rule = NO_RULE } = planOf(sitting);
  const aside = setAside(
    rule,
    listenedOf(answers, await trialsOfSeats(db(), sittingId)),
    observed.map(({ observation }) => observation),
  );
  const gone = new Set(aside.map(({ listener }) => listener));
  const inPart = (number: number) =>
    counted(answers).filter(({ part, kind }) => part === number && kind !== 'learning');
  return {
    seed: BOOTSTRAP_SEED,
    plan: readingPlanOf(question, await guessesOf(db(), sittingId)),
    chains: [...(await madeOf(db(), sitting.comparisonId))],
    aside,
    parts: parts.map(({ number, task }) => ({
      number,
      task,
      answers: inPart(number).length,
      answersLeft: inPart(number).filter(({ listenerId }) => !gone.has(listenerId)).length,
      observations: observed.flatMap(({ answer, observation }) =>
        answer.part === number ? [observation] : [],
      ),
    })),
  };
}

/** Null when there is nothing to do. */
export async function analysisOrder(sittingId: string): Promise<AnalysisOrder | null> {
  const sitting = await findClosed(db(), sittingId);
  return !sitting || readStored(sitting.analysis) ? null : answersToRead(sitting);
}

/** How the chains of a closed sitting stood, as its reading says it. */
async function standingsIn(
  sitting: ClosedSitting,
  made: Pick<StoredAnalysis, 'parts'>,
): Promise<Standing[]> {
  const heard = await partsOfSitting(db(), sitting.id);
  const answers = counted(await listAnswers(db(), sitting.id));
  return standingsOf(answeredParts(heard, made, answers, new Map(), planOf(sitting)));
}

export async function keepAnalysis(sittingId: string, made: StoredAnalysis): Promise<void> {
  const sitting = await findClosed(db(), sittingId);
  if (!sitting) return;
  const standings = await standingsIn(sitting, made);
  await transaction(async (tx) => {
    const comparisonId = await storeAnalysis(tx, sittingId, made);
    if (!comparisonId) return;
    await storeStandings(tx, sittingId, standings);
    await markStandings(tx, sittingId, STANDINGS);
    await announce(tx, comparisonId);
  });
}

/** A sitting that was closed before it was written down how its chains stood, or that another version read; by id, after one. */
export const withoutStandings = (after: string) => lacksStandings(db(), STANDINGS, after);

/** Writes that down from the stored reading; what cannot be made of it is read anew. */
export async function writeStandings(
  { id, comparisonId }: { id: string; comparisonId: string },
  at: Date,
): Promise<void> {
  const sitting = await findClosed(db(), id);
  const analysis = sitting && readStored(sitting.analysis);
  if (!sitting || !analysis) return readAgain(comparisonId, id, at);
  const standings = await standingsIn(sitting, analysis);
  await transaction(async (tx) => {
    await storeStandings(tx, id, standings);
    await markStandings(tx, id, STANDINGS);
  });
}

async function closedSitting(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<ClosedSitting> {
  await comparisonOf(engineer, comparisonId);
  const sitting = await findClosed(db(), sittingId);
  if (sitting?.comparisonId === comparisonId) return sitting;
  const known = (await listSittings(db(), comparisonId)).some(({ id }) => id === sittingId);
  throw known ? new UserError(409, CLOSED_FIRST) : notFound('sitting');
}

/** Remarks, told apart by whether they name what was heard. */
async function ownWordsOf(
  answers: readonly AnswerRow[],
  names: ReadonlyMap<string, string>,
): Promise<ListenerRemark[]> {
  if (answers.every(({ remark }) => remark === '')) return [];
  const gear = await gearNamesOf(db(), [...names.keys()]);
  return remarksOf(answers, (id) => names.get(id) ?? id, [...names.values(), ...gear]);
}

/**
 * Results of a closed sitting: the one asked for, else the one closed last.
 * @param closely false for pages that show neither who looked, nor clips and their spectra: these then stay empty
 */
export async function resultsOf(
  engineer: SignedIn,
  comparisonId: string,
  wanted: string | null,
  closely = true,
): Promise<ResultsView> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const sittings = (await listSittings(db(), comparisonId)).filter(
    ({ state }) => state !== 'draft',
  );
  const view = {
    comparison,
    sittings: sittings.map(({ id, title, state, closedAt }) => ({ id, title, state, closedAt })),
  };
  const closed = sittings
    .filter(({ state }) => state === 'closed')
    .sort((x, y) => Number(y.closedAt) - Number(x.closedAt));
  const chosen = wanted ?? closed[0]?.id;
  if (!chosen || !closed.some(({ id }) => id === chosen)) return { ...view, result: null };
  const sitting = await closedSitting(engineer, comparisonId, chosen);
  const given = await listAnswers(db(), sitting.id);
  const answers = counted(given);
  const byListener = new Map<string, AnswerRow[]>();
  for (const answer of answers) {
    const own = byListener.get(answer.listener);
    if (own) own.push(answer);
    else byListener.set(answer.listener, [answer]);
  }
  const heard = await partsOfSitting(db(), sitting.id);
  const analysis = readStored(sitting.analysis);
  // What an older version of the program made is made anew, once.
  if (!analysis && sitting.analysis !== null) {
    await readAgain(comparisonId, sitting.id, new Date());
  }
  const looked = closely
    ? {
        listeners: await listListeners(db(), sitting.id),
        named: (await listNamedListening(db(), [sitting.id])).get(sitting.id) ?? [],
        clips: await listSealedClips(db(), sitting.id),
      }
    : { listeners: [], named: [], clips: [] };
  const { listeners } = looked;
  const names = namesOf(sitting);
  const everyName = allNames(names, answers);
  const plan = planOf(sitting);
  const { seal, document, fromPack } = await sealedAs(engineer, sitting);
  const levelsDb = closely
    ? await levelsOf(
        heard.find(({ task }) => TASKS[task].asksWords),
        names,
      )
    : new Map<string, never>();
  const read = (made: Pick<StoredAnalysis, 'parts' | 'across'>, own: readonly AnswerRow[]) => {
    const answered = answeredParts(heard, made, own, everyName, plan);
    const parts = answered.map((one, i) =>
      partResult(one, heard[i]!, named(made.parts[i]!, everyName), ofPart(own, heard[i]!)),
    );
    if (own.length === 0) return { parts, across: null };
    const across = acrossOf({
      parts: answered,
      reading: named(made.across, placeNames(everyName, heard)),
      observations: observationsOf(sitting.id, heard, own).map(({ observation }) => ({
        ...observation,
        listener: everyName.get(observation.listener) ?? observation.listener,
      })),
      made: (analysis?.made ?? []).filter(([id]) => names.has(id)),
      question: plan.question ? namedQuestion(plan.question, everyName) : null,
      levelsDb,
      ...whereHeard(heard),
    });
    return { parts, across };
  };
  // Of a large panel those who were hasty most often; everybody is in the files.
  const hastyOf = ([, own]: readonly [string, AnswerRow[]]) =>
    own.filter(({ hasty }) => hasty).length;
  const paced = [...byListener];
  if (paced.length > MOST_LISTENERS) {
    paced.sort((x, y) => hastyOf(y) - hastyOf(x)).splice(MOST_LISTENERS);
  }
  const whole = analysis && read(analysis, answers);
  const gone = new Set(analysis?.without?.aside.map(({ listener }) => listener));
  const left = answers.filter(({ listenerId }) => !gone.has(listenerId));
  return {
    ...view,
    result: {
      sittingId: sitting.id,
      title: sitting.title,
      simulated: sitting.simulated,
      closedAt: sitting.closedAt ?? new Date(0),
      seal,
      sealHolds: (await sha256Hex(document)) === seal,
      fromPack,
      fromFile: fileOf(sitting),
      sealedReading: sealedReading(sitting),
      sealBroken:
        sitting.sealBrokenAt && sitting.sealBrokenReason
          ? { at: sitting.sealBrokenAt, reason: sitting.sealBrokenReason }
          : null,
      listeners: closely ? listeners.length : byListener.size,
      answers: answers.length,
      exploratory:
        sitting.reveal === 'after each part' ? { afterNames: given.length - answers.length } : null,
      sighted: closely ? await sightedIn(sitting.id, heard, given, names) : null,
      chains: [...names.values()],
      chainIds: [...names.keys()],
      room: sitting.room,
      analysisPlan: keyOf(sitting).analysis,
      made: (analysis?.made ?? []).flatMap(([id, made]) => {
        const chain = names.get(id);
        return chain === undefined ? [] : [{ chain, ...made }];
      }),
      parts: whole && whole.parts,
      across: whole && whole.across,
      second:
        whole && closely
          ? secondReading(plan.setAside, whole, analysis.without, {
              read: () => analysis.without && read(analysis.without, left),
              nameOf: (id) => everyName.get(id) ?? id,
            })
          : null,
      paceOf: byListener.size,
      pace: paced.map(([listener, own]) => ({
        listener,
        answers: own.length,
        medianS: medianOf(own.map(({ durationS }) => durationS)),
        hasty: own.filter(({ hasty }) => hasty).length,
        unfetched: own.filter(({ unfetched }) => unfetched).length,
        ...seatFacts(own[0]!.seat, listeners),
      })),
      ears: closely
        ? await earsIn(sitting.id, listeners, () => levelsOf(heard[0], names))
        : NO_EARS,
      remarks: closely ? await ownWordsOf(answers, names) : [],
      baselines: closely
        ? await baselinesOf(comparisonId, {
            sourceIds: heard.map(({ sourceId }) => sourceId),
            chainIds: [...names.keys()],
          })
        : [],
      namedListening: looked.named,
      heardAs: [
        ...(fromPack ? [SHEETS_NOTE] : []),
        ...(sitting.broughtFile === null ? [] : [FILE_NOTE]),
        ...levelNotes(looked.clips),
        ...variantNotes(looked.clips, (id) => names.get(id) ?? 'a chain that was not heard'),
      ],
      clips: looked.clips.map(({ part, chainId, sha256 }) => ({
        part,
        chain: names.get(chainId) ?? chainId,
        sha256,
      })),
    },
  };
}

/** What names and prices changed, by the prices that were shown; under the chains' names. */
async function sightedIn(
  sittingId: string,
  heard: readonly HeardPart[],
  answers: readonly AnswerRow[],
  names: ReadonlyMap<string, string>,
): Promise<SightedShift | null> {
  const again = (await listSightedOf(db(), [sittingId])).get(sittingId) ?? [];
  if (again.length === 0) return null;
  const prices = new Map(
    again.flatMap(({ clips, shown }) =>
      clips.map(({ chainId }, slot) => [chainId, shown[slot]?.priceCents ?? null] as const),
    ),
  );
  const observed = [
    ...observationsOf(sittingId, heard, answers),
    ...observationsOf(sittingId, heard, again),
  ].map(({ observation }) => observation);
  const shift = sightedShift(observed, [...names.keys()], (id) => prices.get(id) ?? null);
  return shift && named(shift, names);
}

/** What is known of who sat on a seat. */
function seatFacts(
  seat: number,
  listeners: readonly SittingListener[],
): { devices: number; sameAs: string | null } {
  const own = listeners.find((one) => one.seat === seat);
  return { devices: own?.devices.length ?? 0, sameAs: own?.sameAs ?? null };
}

/** A context in words. */
export function contextOf({ context }: Pick<HeardPart, 'context'>): string {
  const kind = CONTEXT_KINDS.find((one) => one === context);
  return kind ? CONTEXT_WORDS[kind] : context;
}

const ofPart = (answers: readonly AnswerRow[], { number }: HeardPart) =>
  answers.filter(({ part }) => part === number);

/** Names of everything that a reading across parts holds by id. */
function placeNames(
  names: ReadonlyMap<string, string>,
  heard: readonly HeardPart[],
): Map<string, string> {
  return new Map([
    ...names,
    ...heard.flatMap((part) => [
      [part.sourceId, part.sourceName] as const,
      [part.context, contextOf(part)] as const,
    ]),
  ]);
}

function namedQuestion(
  question: SealedQuestion,
  names: ReadonlyMap<string, string>,
): SealedQuestion {
  const { prediction } = question;
  const { favouriteChainId: id } = prediction;
  return {
    ...question,
    prediction: { ...prediction, favouriteChainId: id && (names.get(id) ?? id) },
  };
}

/** Spectra of the clips of a part, by chain. */
async function levelsOf(
  part: HeardPart | undefined,
  names: ReadonlyMap<string, string>,
): Promise<Map<string, (number | null)[]>> {
  const clips = part ? await listClips(db(), part.clipSetId) : [];
  return new Map(
    clips.flatMap(({ chainId, spectra }) =>
      spectra ? [[names.get(chainId) ?? chainId, spectra.third.levelsDb] as const] : [],
    ),
  );
}

/** Every source and passage that was heard, in words. */
function whereHeard(heard: readonly HeardPart[]): { source: string; passage: string } {
  const all = (of: (part: HeardPart) => string) => list([...new Set(heard.map(of))]);
  return {
    source: all(({ sourceName }) => sourceName),
    passage: all(({ passageName }) => passageName),
  };
}

/** What tells the place of each part from those of others; '' where all were heard in one. */
function placesOf(heard: readonly HeardPart[]): string[] {
  const each = [
    (part: HeardPart) => part.sourceName,
    (part: HeardPart) => part.passageName,
    contextOf,
  ];
  const differ = each.filter((of) => new Set(heard.map(of)).size > 1);
  return heard.map((part) => differ.map((of) => of(part)).join(', '));
}

/** Each part under what it may claim beside the others. */
function answeredParts(
  heard: readonly HeardPart[],
  analysis: Pick<StoredAnalysis, 'parts'>,
  answers: readonly AnswerRow[],
  names: ReadonlyMap<string, string>,
  { primaryPart: primary = null, room }: { primaryPart?: number | null; room?: string },
): (AnsweredPart & { uneven: boolean })[] {
  const own = heard.map((part) => ofPart(answers, part));
  const uneven = heard.map((part, i) => room === 'together' && unevenRoom(part, own[i]!));
  const claims = claimsOf(
    analysis.parts.map(({ task, results }, i) =>
      uneven[i] ? null : SECTIONS[TASKS[task].section].headlineP(results),
    ),
    primary,
  );
  const places = placesOf(heard);
  return heard.map((part, i) => {
    const { section, asksLiking } = TASKS[part.task];
    return {
      number: part.number,
      primary: part.number === primary,
      where: { source: part.sourceName, context: contextOf(part) },
      place: places[i]!,
      section,
      liking: asksLiking,
      results: named(analysis.parts[i]!.results, names),
      claim: claims[i]!,
      listeners: new Set(own[i]!.map(({ listenerId }) => listenerId)).size,
      uneven: uneven[i]!,
    };
  });
}

function partResult(
  { primary, claim, listeners, uneven }: AnsweredPart & { uneven: boolean },
  part: HeardPart,
  analysis: PartAnalysis,
  answers: readonly AnswerRow[],
): ResultPart {
  const { results } = analysis;
  const panel = {
    listeners,
    answers: answers.filter(({ kind }) => kind === 'judged').length,
    source: part.sourceName,
    passage: part.passageName,
    said: TASKS[part.task].line?.said ?? null,
    claim,
  };
  let nothing = 'No word was ticked for any recording.';
  if (analysis.answers === 0) nothing = 'Nobody answered.';
  else if (panel.answers === 0) nothing = 'Only controls were answered.';
  const findings = findingsOf(TASKS[part.task].section, results, panel) ?? plainly(nothing);
  return {
    number: part.number,
    task: part.task,
    prompt: part.prompt,
    heard: placeHeard(part),
    // What is told of single listeners stands in the reading across.
    analysis: {
      ...analysis,
      results: { ...results, pair: results.pair && { ...results.pair, circularTriads: [] } },
    },
    findings: uneven ? plainly(UNEVEN) : findings,
    primary,
    claimed: holds(claim),
    controls: SECTIONS.controls.findings(results, panel)?.remarks ?? [],
  };
}

/** Names of chains as the key holds them, and of listeners as they are called now. */
function allNames(
  chains: ReadonlyMap<string, string>,
  answers: readonly AnswerRow[],
): Map<string, string> {
  return new Map([
    ...chains,
    ...answers.map(({ listenerId, listener }) => [listenerId, listener] as const),
  ]);
}

/** The exact text that was sealed: `sha256sum` of this file is the seal. */
export async function keyFile(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  await comparisonOf(engineer, comparisonId);
  const broken = await findReadable(db(), sittingId);
  const sitting =
    broken?.comparisonId === comparisonId
      ? broken
      : await closedSitting(engineer, comparisonId, sittingId);
  return {
    fileName: `key-${sittingId.slice(0, 8)}.json`,
    contentType: 'application/json; charset=utf-8',
    body: (await sealedAs(engineer, sitting)).document,
  };
}

/** What was heard in a part, in words. */
export const placeHeard = (part: HeardPart): string =>
  `${part.sourceName}, ${part.passageName}, ${contextOf(part)}${part.method === 'gain' ? ', at the same gain' : ''}`;

/** What was heard, in words, by the part of an observation. */
export function placesHeard(parts: readonly HeardPart[]) {
  return ({ part }: Observation) => {
    const heard = parts.find(({ number }) => `${number}` === part);
    return {
      source: heard?.sourceName ?? '',
      passage: heard?.passageName ?? '',
      context: heard ? contextOf(heard) : '',
    };
  };
}

/** An observation with names in place of the ids of its chains. */
export function withChainNames(one: Observation, nameOf: (id: string) => string): Observation {
  return {
    ...one,
    chain: nameOf(one.chain),
    ...('chainB' in one ? { chainB: nameOf(one.chainB) } : {}),
    ...('against' in one ? { against: nameOf(one.against) } : {}),
  };
}

/**
 * Answers as a results file (docs/formats.md), controls and answers from memory included, with what was heard in
 * further columns.
 */
export async function answersCsv(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  const sitting = await closedSitting(engineer, comparisonId, sittingId);
  const parts = await partsOfSitting(db(), sittingId);
  const answers = await listAnswers(db(), sittingId);
  const again = (await listSightedOf(db(), [sittingId])).get(sittingId) ?? [];
  const observed = [
    ...observationsOf(sittingId, parts, answers),
    ...observationsOf(sittingId, parts, again),
  ];
  const names = allNames(namesOf(sitting), answers);
  const nameOf = (id: string) => names.get(id) ?? id;
  const placeIn = placesHeard(parts);
  const rows = observed.map(({ observation }) => ({
    ...withChainNames(observation, nameOf),
    ...placeIn(observation),
    listener: nameOf(observation.listener),
    sitting: sitting.title,
  }));
  const more = {
    fields: [
      'words',
      'heard_s',
      'switches',
      'duration_s',
      'server_s',
      'answered_at',
      'first_fetched_at',
      'hasty',
      'unfetched',
      'remark',
      ...(sitting.simulated ? ['simulated'] : []),
    ],
    of: (i: number) => {
      const { answer } = observed[i]!;
      return [
        answer.clips.map(({ word }) => word).join(' '),
        answer.heardS.map((heard) => heard.toFixed(1)).join(' '),
        answer.switches,
        answer.durationS.toFixed(1),
        answer.serverS?.toFixed(1) ?? '',
        answer.answeredAt.toISOString(),
        firstFetch(answer),
        answer.hasty ? 'yes' : '',
        answer.unfetched ? 'yes' : '',
        answer.remark,
        ...(sitting.simulated ? ['yes'] : []),
      ];
    },
  };
  return {
    fileName: `answers-${sittingId.slice(0, 8)}.csv`,
    contentType: 'text/csv; charset=utf-8',
    body: writeResultsFile(rows, more),
  };
}

/** When the first clip of an answer's trial was sent; empty where none was. */
function firstFetch({ clips }: AnswerRow): string {
  const times = clips.flatMap(({ firstFetchedAt }) => (firstFetchedAt ? [firstFetchedAt] : []));
  return times.length === 0 ? '' : new Date(times.sort()[0]!).toISOString();
}

/** Every answer with its trial, controls and learning included; lossless. */
export async function answersJson(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  const sitting = await closedSitting(engineer, comparisonId, sittingId);
  const names = namesOf(sitting);
  const again = (await listSightedOf(db(), [sittingId])).get(sittingId) ?? [];
  const given = [...(await listAnswers(db(), sittingId)), ...again];
  const answers = given.map(({ clips, ...answer }) => ({
    ...answer,
    sighted: 'shown' in answer,
    clips: clips.map(({ chainId, word, gainDb, firstFetchedAt }) => ({
      chain: names.get(chainId) ?? chainId,
      word,
      gainDb,
      firstFetchedAt,
    })),
  }));
  const parts = (await partsOfSitting(db(), sittingId)).map((part) => ({
    ...part,
    context: contextOf(part),
  }));
  const { title, simulated, closedAt, seal } = sitting;
  const guesses = new Map(
    (await guessesOf(db(), sittingId)).map(({ seat, guess }) => [seat, guess] as const),
  );
  const expectedBy = (seat: number) => {
    const guess = guesses.get(seat);
    const id = guess?.favouriteChainId ?? null;
    return guess ? { favourite: id && (names.get(id) ?? id), toldApart: guess.toldApart } : null;
  };
  return jsonFile(`answers-${sittingId.slice(0, 8)}.json`, {
    title,
    simulated,
    closedAt,
    seal,
    // In one room all had the same order; whoever tests over listeners has to allow for it.
    room: sitting.room,
    sealBroken: sitting.sealBrokenAt && {
      at: sitting.sealBrokenAt,
      reason: sitting.sealBrokenReason,
    },
    namedListening: (await listNamedListening(db(), [sittingId])).get(sittingId) ?? [],
    listeners: (await listListeners(db(), sittingId)).map(
      ({ seat, alias, playback, devices, sameAsSeat }) => ({
        seat,
        alias,
        playback,
        devices,
        sameAsSeat,
        expected: expectedBy(seat),
      }),
    ),
    parts,
    answers,
  });
}

export async function analysisJson(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Download> {
  const sitting = await closedSitting(engineer, comparisonId, sittingId);
  const analysis = readStored(sitting.analysis);
  if (!analysis) throw new UserError(409, 'The analysis is still being made; wait a moment.');
  const names = allNames(namesOf(sitting), await listAnswers(db(), sittingId));
  const places = placeNames(names, await partsOfSitting(db(), sittingId));
  return jsonFile(`analysis-${sittingId.slice(0, 8)}.json`, {
    ...analysis,
    across: named(analysis.across, places),
    made: analysis.made.map(([id, made]) => ({ chain: names.get(id) ?? id, ...made })),
    parts: analysis.parts.map((part) => named(part, names)),
    without: analysis.without && {
      aside: analysis.without.aside.map(({ listener, grounds }) => ({
        listener: names.get(listener) ?? listener,
        grounds,
      })),
      across: named(analysis.without.across, places),
      parts: analysis.without.parts.map((part) => named(part, names)),
    },
  });
}

/** A program that finds the headlines of pairs from the answers alone, for whoever would rather not take our word. */
export function script(name: string, contentType: string) {
  return async (engineer: SignedIn, comparisonId: string): Promise<Download> => {
    await comparisonOf(engineer, comparisonId);
    const root = process.env.ZEITBANK_ROOT ?? process.cwd();
    const body = await readFile(path.join(root, 'docs/scripts', name), 'utf8');
    return { fileName: name, contentType: `${contentType}; charset=utf-8`, body };
  };
}

/** A clip of a closed sitting whose SHA-256 stands in its key, as it was before any copy was made. */
export async function sealedClip(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  sha256: string,
): Promise<{ audioId: number }> {
  await closedSitting(engineer, comparisonId, sittingId);
  const clip = (await listSealedClips(db(), sittingId)).find((one) => one.sha256 === sha256);
  if (!clip) throw notFound('clip');
  return clip;
}
