import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import type { Of } from './observation';
import { quantile } from './distributions';
import { differenceError } from './linear';
import { soundFit } from './pair/analyze';
import { chainModel, contrastOf } from './rating/analyze';
import { deviationOf, ratingTable } from './rating/cells';

/** Simultaneous 95 % limits of a chain's strength minus that of the best other (Hsu 1984). */
export interface AgainstBest {
  chain: string;
  strength: number;
  lower: number;
  upper: number;
}

/** Who may be the best; log odds for pairs, points of the scale for ratings. */
export interface BestSet {
  df: number;
  criticalValue: number;
  /** What counts as level, null where the plan has none. */
  margin: number | null;
  chains: AgainstBest[];
  /** Those not shown worse than the best. */
  notShownWorse: string[];
  /** Those shown to lie within the margin of the best; null without one. */
  shownLevel: string[] | null;
  winner: string | null;
}

/** Who may be the best, of what was asked in pairs and of what was placed on lines. */
export interface Best {
  pair: BestSet | null;
  rating: BestSet | null;
}

const INTERVALS = 400;
const REACH = 8;
const STEP = (2 * REACH) / INTERVALS;
const LEVEL = 0.95;

/** Weights of Simpson's rule over equal intervals. */
const simpson = (i: number) => (i === 0 || i === INTERVALS ? 1 : i % 2 === 1 ? 4 : 2) / 3;

/** Where all normal variables lie below for sure, in steps of the table. */
const LAST = Math.ceil((2 * REACH) / STEP);
/** Φ at the steps from −REACH on, as far as the table below asks. */
let below: Float64Array | null = null;
const tables = new Map<number, Float64Array>();

/** ∫Φ(u + z)^m φ(z) dz at the steps of u from 0 on, by Simpson's rule; the steps of u and z are the same. */
function innerTable(m: number): Float64Array {
  const made = tables.get(m);
  if (made) return made;
  below ??= Float64Array.from({ length: INTERVALS + LAST + 1 }, (_, i) =>
    normalCdf(i * STEP - REACH, 0, 1),
  );
  const powers = below.map((share) => share ** m);
  const density = Float64Array.from({ length: INTERVALS + 1 }, (_, i) => {
    const z = i * STEP - REACH;
    return (simpson(i) * STEP * Math.exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI);
  });
  const table = Float64Array.from({ length: LAST + 1 }, (_, u) =>
    density.reduce((sum, weight, i) => sum + weight * powers[i + u]!, 0),
  );
  tables.set(m, table);
  return table;
}

/** The same between the steps, by the cubic through the four about it. */
function innerAt(table: Float64Array, u: number): number {
  const at = Math.min(LAST - 2, Math.max(1, Math.floor(u / STEP)));
  const t = u / STEP - at;
  if (t > 2) return 1;
  const [p, q, r, s] = [table[at - 1]!, table[at]!, table[at + 1]!, table[at + 2]!];
  return (
    (-p * t * (t - 1) * (t - 2)) / 6 +
    (q * (t + 1) * (t - 1) * (t - 2)) / 2 -
    (r * (t + 1) * t * (t - 2)) / 2 +
    (s * (t + 1) * t * (t - 1)) / 6
  );
}

/** P(d): that m normal variables, correlated by one half and over one χ, all stay under d. */
function coverage(d: number, m: number, df: number): number {
  const table = innerTable(m);
  const [from, to] = [Math.max(0, 1 - 10 / Math.sqrt(df)), 1 + 10 / Math.sqrt(df)];
  let [covered, all] = [0, 0];
  for (let i = 0; i <= INTERVALS; i++) {
    const s = from + ((to - from) * i) / INTERVALS;
    // The density of s up to its constant, which is the same integral without the rest.
    const density =
      s <= 0
        ? Number(df === 1) * Math.exp(1 / 2)
        : Math.exp((df - 1) * Math.log(s) - (df / 2) * (s * s - 1));
    all += simpson(i) * density;
    covered += simpson(i) * density * innerAt(table, Math.SQRT2 * d * s);
  }
  return covered / all;
}

const known = new Map<string, number>();

/**
 * Dunnett's one-sided 95 % value for m comparisons with correlation ½ (Dunnett 1955).
 * @returns the quantile of t for one comparison
 */
export function dunnett(m: number, df: number): number {
  if (m === 1) return quantile(LEVEL, df);
  const key = `${m}/${df}`;
  const before = known.get(key);
  if (before !== undefined) return before;
  // Between one comparison and m that share nothing; the secant through the ends, the older end's weight halved.
  let [low, high] = [quantile(LEVEL, df), quantile(1 - (1 - LEVEL) / m, df)];
  let [below, above] = [low, high].map((d) => coverage(d, m, df) - LEVEL) as [number, number];
  let side = 0;
  for (let i = 0; i < 60 && high - low > 1e-9; i++) {
    const at = high - (above * (high - low)) / (above - below);
    const gap = coverage(at, m, df) - LEVEL;
    if (Math.abs(gap) < 1e-12) {
      [low, high] = [at, at];
    } else if (gap < 0) {
      [low, below] = [at, gap];
      if (side === -1) above /= 2;
      side = -1;
    } else {
      [high, above] = [at, gap];
      if (side === 1) below /= 2;
      side = 1;
    }
  }
  const value = (low + high) / 2;
  known.set(key, value);
  return value;
}

interface Strengths {
  chains: readonly string[];
  strengths: readonly number[];
  df: number;
  /** Standard error of the difference of two. */
  errorOf: (i: number, j: number) => number;
}

/** Multiple comparisons with the best (Hsu 1984). */
export function bestSet(
  { chains, strengths, df, errorOf }: Strengths,
  margin: number | null,
): BestSet {
  const d = dunnett(chains.length - 1, df);
  const others = (i: number) => chains.flatMap((_, j) => (j === i ? [] : [j]));
  const uppers = chains.map((_, i) =>
    Math.max(
      0,
      Math.min(...others(i).map((j) => strengths[i]! - strengths[j]! + d * errorOf(i, j))),
    ),
  );
  const open = chains.flatMap((_, i) => (uppers[i]! > 0 ? [i] : []));
  const limits = chains.map((chain, i): AgainstBest => {
    const rivals = open.filter((j) => j !== i);
    const lower = Math.min(
      0,
      ...rivals.map((j) => strengths[i]! - strengths[j]! - d * errorOf(i, j)),
    );
    return { chain, strength: strengths[i]!, lower, upper: uppers[i]! };
  });
  return {
    df,
    criticalValue: d,
    margin,
    chains: limits,
    notShownWorse: open.map((i) => chains[i]!),
    shownLevel:
      margin === null
        ? null
        : limits.flatMap(({ chain, lower }) => (lower >= -margin ? [chain] : [])),
    winner: open.length === 1 ? chains[open[0]!]! : null,
  };
}

/** Best of pairs, by the model with errors from the listeners' own scores; null where there is none. */
export function bestOfPairs(rows: readonly Of<'pair'>[], margin: number | null): BestSet | null {
  const fit = soundFit(rows);
  if (!fit) return null;
  const { covariance: v } = fit;
  const errorOf = (i: number, j: number) => differenceError(v, i, j);
  return bestSet({ ...fit, errorOf }, margin);
}

const OWN_SPREAD_FROM = 3;

/**
 * Best of ratings. The standard error is the mixed model's or, if larger, that of the listeners' own differences:
 * the pooled one alone covers 87 % when one chain splits the panel.
 */
export function bestOfRatings(
  rows: readonly Of<'rating'>[],
  margin: number | null,
): BestSet | null {
  const table = ratingTable(rows);
  const model = chainModel(table);
  if (!model) return null;
  const errorOf = (i: number, j: number) => {
    const own = table.means.flatMap((row) => {
      const [x, y] = [row[i]!, row[j]!];
      return x === null || y === null ? [] : [x - y];
    });
    const spread = own.length < OWN_SPREAD_FROM ? null : deviationOf(own);
    return Math.max(contrastOf(model, i, j).se, (spread ?? 0) / Math.sqrt(own.length || 1));
  };
  const { chains } = table;
  return bestSet({ chains, strengths: model.fit.beta, df: model.df2, errorOf }, margin);
}
