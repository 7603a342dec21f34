import { Matrix } from 'ml-matrix';
import type { ChainMakes } from '../chains-file';
import { blockFormP, blockStatistic } from '../block-test';
import { chiSquareTail, fTail, holm, quantile, twoSidedP } from '../distributions';
import { differenceError } from '../linear';
import { midRanks } from '../ranks';
import { ALPHA } from '../words';
import type { Warning } from '../findings';
import {
  completeRows,
  deviationOf,
  meanOf,
  rounded,
  ratingTable,
  type RatingTable,
  type PlacedChain,
  type RatedChain,
} from './cells';
import { type FactorTest, factorTests } from './factors';
import { type Group, type MixedFit, fitMixedModel, residualWithin, waldF } from './mixed-model';
import { type Repeatability, repeatability } from './repeatability';
import { signedRankP } from './signed-rank';

export interface MeanRating {
  chain: string;
  /** Single ratings. */
  n: number;
  mean: number;
  sd: number | null;
  adjustedMean: number;
  se: number | null;
  ci95: [number, number] | null;
}

export interface PostHoc {
  a: string;
  b: string;
  n: number;
  difference: number | null;
  p: number | null;
  pHolm: number | null;
  pModel: number | null;
  pModelHolm: number | null;
}

/** Agreement of listeners (Shrout & Fleiss 1979). */
export interface Icc {
  listeners: number;
  chains: number;
  icc2_1: number | null;
  icc2_k: number | null;
  icc3_1: number | null;
  icc3_k: number | null;
}

/** The `rating` section of the analysis; points of the scale throughout, see docs/methods.md. */
export interface RatingAnalysis {
  chains: MeanRating[];
  mixedModel: {
    cells: number;
    varListener: number;
    varResidual: number;
    fTest: {
      F: number;
      df1: number;
      df2: number;
      p: number;
      ggEpsilon: number | null;
      pGG: number | null;
    };
  } | null;
  friedman: {
    listeners: number;
    chisq: number;
    df: number;
    p: number;
    pF: number;
    kendallW: number;
  } | null;
  headlineTest: 'friedman' | 'mixedModel' | null;
  posthoc: PostHoc[];
  icc: Icc | null;
  repeatability: Repeatability[];
  factors: FactorTest[];
}

const FEW_LISTENERS = 5;
/** Sums of squares below this are rounding. */
const NOTHING = 1e-9;
const SMALLEST = 1e-12;

/** Listeners as groups of a model with one mean for each chain. */
export function groupsOf({ means }: RatingTable): Group[] {
  return means.map((row) => {
    const own = row.flatMap((value, j) => (value === null ? [] : [{ value, j }]));
    return {
      rows: own.map(({ j }) => row.map((_, i) => (i === j ? 1 : 0))),
      values: own.map(({ value }) => value),
    };
  });
}

export interface ChainModel {
  fit: MixedFit;
  /** Degrees of freedom of contrasts between chains. */
  df2: number;
}

/** Like the tables, made once for each. */
const models = new WeakMap<RatingTable, ChainModel | 'none'>();

/** One mean for each chain and a random listener; null where it cannot be made. */
export function chainModel(table: RatingTable): ChainModel | null {
  const model = models.get(table) ?? modelOfChains(table) ?? 'none';
  models.set(table, model);
  return model === 'none' ? null : model;
}

function modelOfChains(table: RatingTable): ChainModel | null {
  const [k, listeners] = [table.chains.length, table.listeners.length];
  const groups = groupsOf(table);
  const cells = groups.reduce((sum, { values }) => sum + values.length, 0);
  const df2 = cells - listeners - k + 1;
  if (listeners < 2 || k < 2 || df2 < 1 || residualWithin(groups, k) < NOTHING) return null;
  const fit = fitMixedModel(groups, k);
  return fit && { fit, df2 };
}

/** Difference of two chains by the model and its standard error. */
export function contrastOf(
  { fit }: ChainModel,
  i: number,
  j: number,
): { value: number; se: number } {
  const { beta, covariance: v } = fit;
  return {
    value: beta[i]! - beta[j]!,
    se: differenceError(v, i, j),
  };
}

/** Box's ε from the listeners' own means (Greenhouse & Geisser 1959). */
function greenhouseGeisser(rows: readonly (readonly number[])[]): number | null {
  const k = rows[0]!.length;
  const centres = rows[0]!.map((_, j) => meanOf(rows.map((row) => row[j]!)));
  const covariance = new Matrix(k, k);
  for (let i = 0; i < k; i++) {
    for (let j = 0; j < k; j++) {
      const sum = rows.reduce(
        (all, row) => all + (row[i]! - centres[i]!) * (row[j]! - centres[j]!),
        0,
      );
      covariance.set(i, j, sum / (rows.length - 1));
    }
  }
  const centred = Matrix.eye(k, k).sub(1 / k);
  const cs = centred.mmul(covariance);
  const square = cs.mmul(cs).trace();
  return square < SMALLEST ? null : Math.min(1, cs.trace() ** 2 / ((k - 1) * square));
}

function modelOf(table: RatingTable, model: ChainModel): RatingAnalysis['mixedModel'] {
  const { fit, df2 } = model;
  const k = table.chains.length;
  const differences = Matrix.zeros(k - 1, k);
  for (let i = 0; i + 1 < k; i++) {
    differences.set(i, i, 1);
    differences.set(i, k - 1, -1);
  }
  const F = waldF(fit, differences);
  if (F === null) return null;
  const complete = completeRows(table);
  const ggEpsilon = complete.length === table.listeners.length ? greenhouseGeisser(complete) : null;
  return {
    cells: df2 + table.listeners.length + k - 1,
    varListener: fit.varListener,
    varResidual: fit.varResidual,
    fTest: {
      F,
      df1: k - 1,
      df2,
      p: fTail(F, k - 1, df2),
      ggEpsilon,
      pGG: ggEpsilon === null ? null : fTail(F, ggEpsilon * (k - 1), ggEpsilon * df2),
    },
  };
}

function friedmanOf(complete: readonly number[][], k: number): RatingAnalysis['friedman'] {
  const b = complete.length;
  const chisq = b >= 2 && k >= 2 ? blockStatistic(complete.map(midRanks)) : null;
  if (chisq === null) return null;
  return {
    listeners: b,
    chisq,
    df: k - 1,
    p: chiSquareTail(chisq, k - 1),
    pF: blockFormP(chisq, b, k),
    kendallW: chisq / (b * (k - 1)),
  };
}

function posthocOf({ chains, means }: RatingTable, model: ChainModel | null): PostHoc[] {
  const rows = chains.flatMap((a, i) =>
    chains.slice(i + 1).map((b, after) => {
      const j = i + 1 + after;
      const own = means.flatMap((row) => {
        const [x, y] = [row[i]!, row[j]!];
        return x === null || y === null ? [] : [rounded(x - y)];
      });
      const contrast = model && contrastOf(model, i, j);
      return {
        a,
        b,
        n: own.length,
        difference: own.length === 0 ? null : meanOf(own),
        p: own.length === 0 ? null : signedRankP(own),
        pModel: contrast && model ? twoSidedP(contrast.value / contrast.se, model.df2) : null,
      };
    }),
  );
  const pHolm = holm(rows.map(({ p }) => p));
  const pModelHolm = holm(rows.map(({ pModel }) => pModel));
  return rows.map(({ pModel, ...row }, i) => ({
    ...row,
    pHolm: pHolm[i]!,
    pModel,
    pModelHolm: pModelHolm[i]!,
  }));
}

function iccOf(complete: readonly (readonly number[])[], k: number): Icc | null {
  const b = complete.length;
  if (b < 2 || k < 2) return null;
  const grand = meanOf(complete.flat());
  const chains = complete[0]!.map((_, j) => meanOf(complete.map((row) => row[j]!)));
  const listeners = complete.map(meanOf);
  const sum = (values: readonly number[]) => values.reduce((all, v) => all + (v - grand) ** 2, 0);
  const [r, c] = [(b * sum(chains)) / (k - 1), (k * sum(listeners)) / (b - 1)];
  const left = complete.flatMap((row, g) =>
    row.map((v, j) => v - chains[j]! - listeners[g]! + grand),
  );
  const e = left.reduce((all, v) => all + v * v, 0) / ((k - 1) * (b - 1));
  const share = (whole: number) =>
    r < SMALLEST || Math.abs(whole) < SMALLEST ? null : (r - e) / whole;
  return {
    listeners: b,
    chains: k,
    icc2_1: share(r + (b - 1) * e + (b * (c - e)) / k),
    icc2_k: share(r + (c - e) / k),
    icc3_1: share(r + (b - 1) * e),
    icc3_k: share(r),
  };
}

/** Whether somebody's chains were rated in different sets of places (source and context). */
function unbalanced(ratings: readonly PlacedChain[]): boolean {
  const places = new Map<string, Map<string, Set<string>>>();
  for (const { listener, chain, source, context } of ratings) {
    const own = places.get(listener) ?? new Map<string, Set<string>>();
    places.set(listener, own);
    const of = own.get(chain) ?? new Set<string>();
    own.set(chain, of.add(`${source}\n${context}`));
  }
  return [...places.values()].some(
    (own) => new Set([...own.values()].map((of) => [...of].sort().join('\n'))).size > 1,
  );
}

function cautions(
  ratings: readonly PlacedChain[],
  table: RatingTable,
  posthoc: readonly PostHoc[],
) {
  const warnings: Warning[] = [];
  const warn = (code: string, message: string) =>
    warnings.push({ code, section: 'rating', message });
  const { listeners, means } = table;
  if (listeners.length < FEW_LISTENERS) {
    warn('few-listeners', `ratings of ${listeners.length} listeners; conclusions need more`);
  }
  if (means.some((row) => row.includes(null))) {
    warn('incomplete-listeners', 'who has not rated every chain is left out of Friedman’s test');
  }
  if (unbalanced(ratings)) {
    warn('unbalanced-sources', 'somebody rated the chains in different places, which means mix');
  }
  const all = means.flat().filter((value) => value !== null);
  if (Math.max(...all) - Math.min(...all) < NOTHING) {
    warn('no-variation', 'every mean is the same; there is nothing to test');
  }
  const shared = Math.max(0, ...posthoc.map(({ n }) => n));
  if (posthoc.length * Math.min(1, 2 ** (1 - shared)) > ALPHA) {
    warn('posthoc-floor', 'with so few listeners the signed rank test cannot reach 5 % for a pair');
  }
  return warnings;
}

/**
 * Reads places on a line with the listener as the unit.
 * @param ratings what was judged
 * @param repeats what was placed again; it counts for repeatability only
 */
export function analyzeRatings(
  ratings: readonly PlacedChain[],
  repeats: readonly PlacedChain[],
  made: ChainMakes | null,
): { analysis: RatingAnalysis; warnings: Warning[] } {
  const table = ratingTable(ratings);
  const k = table.chains.length;
  const complete = completeRows(table);
  const model = chainModel(table);
  const friedman = friedmanOf(complete, k);
  const posthoc = posthocOf(table, model);
  const width = quantile(0.975, Math.max(1, table.listeners.length - 1));
  const mixedModel = model && modelOf(table, model);
  const factors = made ? factorTests(ratings, made) : { tests: [], warnings: [] };
  const values = new Map<string, number[]>();
  for (const { chain, value } of ratings) {
    const own = values.get(chain);
    if (own) own.push(value);
    else values.set(chain, [value]);
  }
  const mostComplete = friedman !== null && speaksFor(friedman, table);
  return {
    analysis: {
      chains: table.chains.map((chain, j) => {
        const own = values.get(chain) ?? [];
        const cells = table.means.flatMap((row) => row[j] ?? []);
        const adjustedMean = model ? model.fit.beta[j]! : meanOf(cells);
        const se = model ? Math.sqrt(model.fit.covariance.get(j, j)) : null;
        return {
          chain,
          n: own.length,
          mean: meanOf(own),
          sd: deviationOf(own),
          adjustedMean,
          se,
          ci95: se === null ? null : [adjustedMean - width * se, adjustedMean + width * se],
        };
      }),
      mixedModel,
      friedman,
      headlineTest: mostComplete ? 'friedman' : mixedModel ? 'mixedModel' : null,
      posthoc,
      icc: iccOf(complete, k),
      repeatability: repeatability([...ratings, ...repeats]),
      factors: factors.tests,
    },
    warnings: [...cautions(ratings, table, posthoc), ...factors.warnings],
  };
}

/** Whether enough listeners rated every chain for the headline to be theirs. */
const speaksFor = ({ listeners }: { listeners: number }, table: RatingTable) =>
  2 * listeners >= table.listeners.length;

/** The same p from ratings alone. */
export function headlineOfRatings(ratings: readonly RatedChain[]): number | null {
  const table = ratingTable(ratings);
  const friedman = friedmanOf(completeRows(table), table.chains.length);
  if (friedman && speaksFor(friedman, table)) return friedman.pF;
  const model = chainModel(table);
  return (model && modelOf(table, model))?.fTest.p ?? null;
}

/** p of the headline's test; null where there is none. */
export function ratingHeadlineP({
  headlineTest,
  friedman,
  mixedModel,
}: RatingAnalysis): number | null {
  if (headlineTest === 'friedman') return friedman?.pF ?? null;
  return headlineTest === 'mixedModel' ? (mixedModel?.fTest.p ?? null) : null;
}
