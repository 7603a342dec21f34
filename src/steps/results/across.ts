import type { ChainMake } from '@/core/statistics/chains-file';
import { byListener, type Observation } from '@/core/statistics/observation';
import { shareAgainstAverage } from '@/core/statistics/pair/findings';
import type { Reading } from '@/core/statistics/reading';
import {
  type AnsweredPart,
  type Answers,
  answersOf,
  leadersOf,
} from '@/core/statistics/reading/answers';
import type { Camps } from '@/core/statistics/reading/camps';
import type { Interaction } from '@/core/statistics/reading/interactions';
import type { Links } from '@/core/statistics/reading/links';
import type { ReadTask } from '@/core/statistics/reading/shared';
import type { PreferenceVerdict } from '@/core/statistics/reading/verdicts';
import {
  type OwnSpectrum,
  ownSpectrum,
  type WordBands,
  wordBands,
} from '@/core/spectrum/word-bands';
import { holds } from '@/core/statistics/claims';
import { ALPHA } from '@/core/statistics/words';
import { limitsOf } from '@/core/statistics/findings';
import type { SealedQuestion } from '@/steps/sitting/schema';
import { money } from '@/ui/format';
import { fewestHearers } from './question';

/** A chain in one place: where it stands on the scale, 0 to 100, and how sure that is. */
export interface PlacedChain {
  chain: string;
  value: number | null;
  from: number | null;
  to: number | null;
  /** Not shown worse than the best there; false for all where nothing is claimed. */
  leads: boolean;
}

/** One place of the picture. */
export interface PicturePlace {
  place: string;
  /** Number of the part that it is read from. */
  part: number;
  /** Shares of choices made against an average chain, or points of a line. */
  unit: 'share' | 'points';
  claimed: boolean;
  chains: PlacedChain[];
}

/** How often a control came out one way. */
interface Tally {
  times: number;
  of: number;
}

/** What one listener liked and how they answered, beside the others. */
export interface ListenerRow {
  listener: string;
  /** Chains by rank, 1 the best; equal ones share the middle. */
  ranks: Record<string, number>;
  agreement: number | null;
  /** ζ of pairs, and scatter of repeated places. */
  zeta: number | null;
  circles: Tally | null;
  scatter: number | null;
  /** Chose the same clip made louder. */
  levelCatch: Tally | null;
  /** Chose the first of two that were the same. */
  first: Tally | null;
  /** Where they stand on the axis of taste; null where none is shown. */
  score: number | null;
}

/** All parts of a sitting set against each other, as it is shown. */
export interface Across {
  answers: Omit<Answers, 'places'>;
  interactions: Interaction[];
  /** As it was sealed; null in sittings of before. */
  question: SealedQuestion | null;
  picture: PicturePlace[];
  /** Share of answers that chose neither, where the picture shows choices. */
  tiesShare: number | null;
  limits: string[];
  /** Of every two chains, over all places: which is preferred, or whether they are level. */
  verdicts: Pick<PreferenceVerdict, 'a' | 'b' | 'preferred' | 'verdict'>[];
  /** Of the first part that asked for words: which of them differ, and what their chains have in common. */
  words: (WordBands & { word: string })[];
  /** Of the same part: each chain's clip against the mean of the others'; none where a clip has no spectrum. */
  spectra: (OwnSpectrum & { chain: string })[];
  /** Of a large panel some, evenly along their order; `of` how many there are. */
  listeners: { task: ReadTask; rows: ListenerRow[]; of: number; camps: Camps | null } | null;
  links: {
    read: Links;
    task: ReadTask;
    /** Combinations of microphone and preamp that no chain has. */
    missing: string[];
  } | null;
}

const percent = (logStrength: number) => 100 * shareAgainstAverage(logStrength);
const points = (value: number) => Math.min(100, Math.max(0, value));

/** Of a part that asks what is liked: every chain with its interval. */
export function placeOf(part: AnsweredPart): PicturePlace {
  const { pair, rating } = part.results;
  const leaders = leadersOf(part);
  const common = { place: part.place, part: part.number, claimed: holds(part.claim) };
  const leads = (chain: string) => leaders.includes(chain);
  if (part.section === 'pair') {
    return {
      ...common,
      unit: 'share',
      chains: (pair?.overall ?? []).map(({ chain, logStrength, ci95 }) => ({
        chain,
        value: logStrength === null ? null : percent(logStrength),
        from: ci95 && percent(ci95[0]),
        to: ci95 && percent(ci95[1]),
        leads: leads(chain),
      })),
    };
  }
  return {
    ...common,
    unit: 'points',
    chains: (rating?.chains ?? []).map(({ chain, adjustedMean, ci95 }) => ({
      chain,
      value: points(adjustedMean),
      from: ci95 && points(ci95[0]),
      to: ci95 && points(ci95[1]),
      leads: leads(chain),
    })),
  };
}

function tiesShareOf(places: readonly AnsweredPart[]): number | null {
  const pairs = places.flatMap(({ section, results }) =>
    section === 'pair' ? (results.pair?.pairs ?? []) : [],
  );
  const sum = (of: (row: (typeof pairs)[number]) => number) =>
    pairs.reduce((total, row) => total + of(row), 0);
  const all = sum(({ aWins, bWins, ties }) => aWins + bWins + ties);
  return all === 0 ? null : sum(({ ties }) => ties) / all;
}

/** Ranks of chains in an order, best first; equal ones share the middle. */
function ranksOf(order: readonly (readonly string[])[]): Record<string, number> {
  const ranks: Record<string, number> = {};
  let before = 0;
  for (const group of order) {
    for (const chain of group) ranks[chain] = before + (group.length + 1) / 2;
    before += group.length;
  }
  return ranks;
}

function tally(own: readonly Observation[], counts: (one: Observation) => boolean): Tally | null {
  return own.length === 0 ? null : { times: own.filter(counts).length, of: own.length };
}

/** Sides of a control are names of places in the pair: 'a' and 'b'. */
const chose = (side: 'first' | 'louder') => (one: Observation) =>
  one.kind === 'pair' && one.response !== 'tie' && one.response === one[side];

function listenersOf(
  { listeners, camps }: Reading,
  observations: readonly Observation[],
  preferred: ReadTask,
): Across['listeners'] {
  const has = (task: ReadTask) => listeners.some((one) => one[task] !== null);
  const task = camps?.task ?? preferred;
  if (!has(task)) return null;
  const said = byListener(observations);
  const scores = new Map(camps?.scores?.map(({ listener, score }) => [listener, score]));
  const rows = listeners.flatMap((one): ListenerRow[] => {
    const own = one[task];
    if (!own) return [];
    const { pair, rating } = one;
    const controls = (role: Observation['role']) =>
      (said.get(one.listener) ?? []).filter((it) => it.kind === 'pair' && it.role === role);
    const { triads = null } = pair ?? {};
    return [
      {
        listener: one.listener,
        ranks: ranksOf(own.order),
        agreement: own.agreement,
        zeta: triads?.zeta ?? null,
        circles: triads && { times: triads.triads, of: triads.decidedTriads },
        scatter: rating?.repeatability?.sdOfReplicates ?? null,
        levelCatch: tally(controls('louder'), chose('louder')),
        first: tally(controls('self'), chose('first')),
        score: scores.get(one.listener) ?? null,
      },
    ];
  });
  // Along the axis that tastes differ on, else those first whom the others agree with.
  const key = ({ score, agreement }: ListenerRow) => score ?? agreement ?? -2;
  const sorted = rows.sort((x, y) => key(y) - key(x));
  return {
    task,
    rows: spread(sorted, MOST_LISTENERS),
    of: rows.length,
    // Where each stands is in the rows.
    camps: camps && { ...camps, scores: null },
  };
}

/** The most listeners that are shown one by one; all are in the files. */
export const MOST_LISTENERS = 100;

/** At most so many, evenly from the first to the last. */
export function spread<Row>(rows: readonly Row[], most: number): Row[] {
  if (rows.length <= most) return [...rows];
  const at = (i: number) => rows[Math.round((i * (rows.length - 1)) / (most - 1))]!;
  return Array.from({ length: most }, (_, i) => at(i));
}

function linksOf(
  { links }: Reading,
  made: readonly (readonly [string, ChainMake])[],
  preferred: ReadTask,
): Across['links'] {
  const task = [preferred, 'pair' as const, 'rating' as const].find((one) => links[one] !== null);
  if (!task) return null;
  const whole = made.flatMap(([, own]) => (own.microphone && own.preamp ? [own] : []));
  const levels = (of: 'microphone' | 'preamp') => [...new Set(whole.map((own) => own[of]))];
  const missing = levels('microphone').flatMap((microphone) =>
    levels('preamp').flatMap((preamp) =>
      whole.some((own) => own.microphone === microphone && own.preamp === preamp)
        ? []
        : [`${microphone} with ${preamp}`],
    ),
  );
  return { read: links, task, missing };
}

/** Words that differ between the chains, clearest first. */
function wordsOf(
  parts: readonly AnsweredPart[],
  levelsDb: ReadonlyMap<string, readonly (number | null)[]>,
): Across['words'] {
  const part = parts.find(({ section }) => section === 'attributes');
  if (!part || !holds(part.claim)) return [];
  return part.results.attributes
    .filter(({ pHolm }) => pHolm !== null && pHolm < ALPHA)
    .sort((x, y) => (x.p ?? 1) - (y.p ?? 1))
    .map(({ word, counts }) => ({ word, ...wordBands(counts, levelsDb) }));
}

/** What the clips of the chains that were described have of their own. */
function spectraOf(
  parts: readonly AnsweredPart[],
  levelsDb: ReadonlyMap<string, readonly (number | null)[]>,
): Across['spectra'] {
  const part = parts.find(({ section }) => section === 'attributes');
  const chains = Object.keys(part?.results.attributes[0]?.counts ?? {});
  return chains
    .map((chain) => ({ chain, ...ownSpectrum(chain, chains, levelsDb) }))
    .filter(({ differenceDb }) => differenceDb.some((db) => db !== null));
}

/** What all parts say together; everything by name. */
export function acrossOf(asked: {
  parts: readonly AnsweredPart[];
  reading: Reading;
  observations: readonly Observation[];
  /** Of the chains that were heard, what each is made of. */
  made: readonly (readonly [string, ChainMake])[];
  question: SealedQuestion | null;
  source: string;
  passage: string;
  /** Thirds of an octave of each chain's clip, of the part with words. */
  levelsDb: ReadonlyMap<string, readonly (number | null)[]>;
}): Across {
  const { parts, reading, question } = asked;
  const { places, ...answers } = answersOf({
    parts,
    across: reading,
    nullHypothesis: question?.nullHypothesis || null,
    maxDistinguishers: question && fewestHearers(question),
    money,
  });
  const preferred: ReadTask = places[0]?.section === 'pair' || !places[0] ? 'pair' : 'rating';
  return {
    answers,
    interactions: reading.interactions.filter(({ task }) => task === preferred),
    question,
    picture: places.map(placeOf),
    tiesShare: tiesShareOf(places),
    limits: limitsOf(asked),
    verdicts: reading.verdicts.preference
      .filter(({ task }) => task === preferred)
      .map(({ a, b, preferred: chain, verdict }) => ({ a, b, preferred: chain, verdict })),
    words: wordsOf(parts, asked.levelsDb),
    spectra: spectraOf(parts, asked.levelsDb),
    listeners: listenersOf(reading, asked.observations, preferred),
    links: linksOf(reading, asked.made, preferred),
  };
}
