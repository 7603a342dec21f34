import { ALPHA } from '../words';
import type { Audibility } from '../audibility';
import {
  binomialAtMost,
  clopperPearson,
  holm,
  quantile,
  tAtMost,
  twoSidedP,
} from '../distributions';
import { differenceError } from '../linear';
import { soundFit } from '../pair/analyze';
import type { PairRow } from '../pair/tests';
import type { RatingAnalysis } from '../rating/analyze';
import { chainModel, contrastOf, ratingHeadlineP } from '../rating/analyze';
import { deviationOf, meanOf, ratingTable } from '../rating/cells';
import { marginsOf } from './best';
import type { ReadingAsked, ReadingRows, Tested } from './reading';
import type { ReadTask } from './shared';

/** How many hear a difference at all, and whether that is no more than the planned limit. */
export interface AudibilityVerdict {
  a: string;
  b: string;
  task: Audibility['task'];
  proportion: number;
  lower: number;
  upper: number;
  distinguishersLower: number;
  distinguishersUpper: number;
  pHolm: number;
  pSimilar: number | null;
  pSimilarHolm: number | null;
  verdict: 'heard' | 'heard by few' | 'no more than the limit' | 'undecided';
}

/** Whether one of two is preferred, and whether the difference is smaller than what matters. */
export interface PreferenceVerdict {
  task: ReadTask;
  a: string;
  b: string;
  basis: 'contrast' | 'listeners' | 'none';
  difference: number | null;
  se: number | null;
  df: number | null;
  pDifference: number | null;
  pDifferenceHolm: number | null;
  margin: number | null;
  pLevel: number | null;
  pLevelHolm: number | null;
  preferred: string | null;
  verdict: 'preferred' | 'preferred but slight' | 'level' | 'undecided';
}

export interface Verdicts {
  audibility: AudibilityVerdict[];
  preference: PreferenceVerdict[];
}

/** One-sided limits of 95 %. */
const ONE_SIDED = 0.95;
/** From so many listeners with two trials each their own spread counts, too. */
const SPREAD_FROM = 5;
const TRIALS_EACH = 2;
const NOTHING = 1e-12;
const OWN_FROM = 3;

/** Spread of listeners' own proportions; null where too few have enough trials. */
function spreadOf({
  byListener,
}: Audibility): { mean: number; sd: number; listeners: number } | null {
  const own = byListener.flatMap(({ n, proportion }) => (n >= TRIALS_EACH ? [proportion] : []));
  if (own.length < SPREAD_FROM) return null;
  return { mean: meanOf(own), sd: deviationOf(own) ?? 0, listeners: own.length };
}

/** p that at most a share M of the listeners hear it; the largest of all ways of reading. */
function similarP(entry: Audibility, most: number): number {
  const { correct, n, guess, byListener } = entry;
  const atMost = guess + (1 - guess) * most;
  const ways = [binomialAtMost(correct, n, atMost), (1 - most) ** byListener.length];
  const spread = spreadOf(entry);
  if (spread) {
    const { mean, sd, listeners } = spread;
    ways.push(
      sd < NOTHING
        ? Number(mean >= atMost)
        : tAtMost(((mean - atMost) * Math.sqrt(listeners)) / sd, listeners - 1),
    );
  }
  return Math.max(...ways);
}

function audibilityVerdicts(
  entries: readonly Audibility[],
  { plan }: ReadingAsked,
): AudibilityVerdict[] {
  const { maxDistinguishers: most } = plan;
  const similar = entries.map((entry) => (most === undefined ? null : similarP(entry, most)));
  const similarHolm = holm(similar);
  return entries.map((entry, i) => {
    const { a, b, task, n, correct, guess, proportion, pHolm, byListener } = entry;
    let [lower, upper] = clopperPearson(correct, n, 2 * ONE_SIDED - 1);
    const spread = spreadOf(entry);
    if (spread) {
      const width =
        (quantile(ONE_SIDED, spread.listeners - 1) * spread.sd) / Math.sqrt(spread.listeners);
      lower = Math.max(0, Math.min(lower, spread.mean - width));
      upper = Math.min(1, Math.max(upper, spread.mean + width));
    }
    const hearing = (share: number) => Math.max(0, (share - guess) / (1 - guess));
    // So many may hear it though none here does.
    const unseen = 1 - (1 - ONE_SIDED) ** (1 / byListener.length);
    const pSimilarHolm = similarHolm[i]!;
    const heard = pHolm < ALPHA;
    const within = pSimilarHolm !== null && pSimilarHolm < ALPHA;
    return {
      a,
      b,
      task,
      proportion,
      lower,
      upper,
      distinguishersLower: hearing(lower),
      distinguishersUpper: Math.max(hearing(upper), unseen),
      pHolm,
      pSimilar: similar[i]!,
      pSimilarHolm,
      verdict: heard
        ? within
          ? 'heard by few'
          : 'heard'
        : within
          ? 'no more than the limit'
          : 'undecided',
    };
  });
}

type Basis = Pick<
  PreferenceVerdict,
  'task' | 'a' | 'b' | 'basis' | 'difference' | 'se' | 'df' | 'pDifference' | 'margin' | 'pLevel'
> & {
  /** Positive where a has more. */
  ahead: number;
};

/** Two one-sided t tests (Schuirmann 1987) that a difference lies within a margin. */
function levelP(difference: number, se: number, df: number, margin: number): number {
  return Math.max(
    1 - tAtMost((difference + margin) / se, df),
    tAtMost((difference - margin) / se, df),
  );
}

function pairBases(
  rows: ReadingRows['pair'],
  pairs: readonly PairRow[],
  margin: number | null,
): Basis[] {
  const fit = soundFit(rows);
  return pairs.map(({ a, b, listenersA, listenersB, pListener }): Basis => {
    const common = { task: 'pair' as const, a, b, margin };
    if (!fit) {
      const none = { difference: null, se: null, df: null, pLevel: null };
      const ahead = listenersA - listenersB;
      return { ...common, basis: 'listeners', ...none, pDifference: pListener, ahead };
    }
    const { chains, strengths, covariance: v, df } = fit;
    const [i, j] = [chains.indexOf(a), chains.indexOf(b)];
    const difference = strengths[i]! - strengths[j]!;
    const se = differenceError(v, i, j);
    return {
      ...common,
      basis: 'contrast',
      difference,
      se,
      df,
      pDifference: twoSidedP(difference / se, df),
      pLevel: margin === null ? null : levelP(difference, se, df, margin),
      ahead: difference,
    };
  });
}

function ratingBases(
  rows: ReadingRows['rating'],
  analysis: RatingAnalysis,
  margin: number | null,
): Basis[] {
  const table = ratingTable(rows);
  const model = chainModel(table);
  return analysis.posthoc.map(({ a, b, pModel }): Basis => {
    const common = { task: 'rating' as const, a, b, margin };
    if (!model) {
      const none = { difference: null, se: null, df: null, pDifference: null, pLevel: null };
      return { ...common, basis: 'none', ...none, ahead: 0 };
    }
    const [i, j] = [table.chains.indexOf(a), table.chains.indexOf(b)];
    const { value, se } = contrastOf(model, i, j);
    const own = table.means.flatMap((row) => {
      const [x, y] = [row[i]!, row[j]!];
      return x === null || y === null ? [] : [x - y];
    });
    const { df2 } = model;
    return {
      ...common,
      basis: 'contrast',
      difference: value,
      se,
      df: df2,
      pDifference: pModel,
      pLevel: margin === null ? null : bothLevelP(value, se, df2, own, margin),
      ahead: value,
    };
  });
}

/** The model's and the listeners' own two one-sided tests; the larger p. */
function bothLevelP(
  difference: number,
  se: number,
  df: number,
  own: readonly number[],
  margin: number,
): number | null {
  if (own.length < OWN_FROM) return null;
  const [mean, sd] = [meanOf(own), deviationOf(own) ?? 0];
  const byOwn =
    sd < NOTHING
      ? Number(Math.abs(mean) >= margin)
      : levelP(mean, sd / Math.sqrt(own.length), own.length - 1, margin);
  return Math.max(levelP(difference, se, df, margin), byOwn);
}

function decided(bases: readonly Basis[], headlineP: number | null): PreferenceVerdict[] {
  const differenceHolm = holm(bases.map(({ pDifference }) => pDifference));
  const levelHolm = holm(bases.map(({ pLevel }) => pLevel));
  return bases.map(({ ahead, ...basis }, i) => {
    const [pDifferenceHolm, pLevelHolm] = [differenceHolm[i]!, levelHolm[i]!];
    const shown =
      pDifferenceHolm !== null &&
      pDifferenceHolm < ALPHA &&
      headlineP !== null &&
      headlineP < ALPHA;
    const small = pLevelHolm !== null && pLevelHolm < ALPHA;
    return {
      ...basis,
      pDifferenceHolm,
      pLevelHolm,
      preferred: shown ? (ahead > 0 ? basis.a : basis.b) : null,
      verdict: shown
        ? small
          ? 'preferred but slight'
          : 'preferred'
        : small
          ? 'level'
          : 'undecided',
    };
  });
}

/** What can be said of every two chains: heard, preferred, level, or undecided. */
export function readVerdicts(
  { pair, rating }: ReadingRows,
  { pairs, pairP, ratings, audibility }: Tested,
  asked: ReadingAsked,
): Verdicts {
  const margins = marginsOf(asked);
  const ofRatings = ratings
    ? decided(ratingBases(rating, ratings, margins.rating), ratingHeadlineP(ratings))
    : [];
  return {
    audibility: audibilityVerdicts(audibility, asked),
    preference: [...decided(pairBases(pair, pairs, margins.pair), pairP), ...ofRatings],
  };
}
