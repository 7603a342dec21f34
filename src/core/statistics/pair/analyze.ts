import { Matrix } from 'ml-matrix';
import { Random } from '@/core/signal/random';
import type { Warning } from '../findings';
import { chiSquareTail, quantile, twoSidedP } from '../distributions';
import { inverseOf } from '../linear';
import { once } from '../once';
import { indexJudgements, type PairData, type PairJudgement } from './judgements';
import {
  type Cell,
  cellsOf,
  connected,
  fitPairModel,
  type ModelShape,
  orderEstimable,
  type PairFit,
  refitter,
  scoreOf,
  PRIOR_SD,
  supremum,
  supremumWithoutStrengths,
} from './model';
import {
  circularTriads,
  type PairRow,
  pairTable,
  type PanelTest,
  panelTest,
  type Triads,
} from './tests';

export interface PairStrength {
  chain: string;
  logStrength: number | null;
  se: number | null;
  seModel: number | null;
  ci95: [number, number] | null;
  wins: number;
  losses: number;
  ties: number;
  separated: boolean;
}

/** The `pair` section of the analysis. Log odds throughout; see docs/methods.md. */
export interface PairAnalysis {
  fit: {
    method: 'ml' | 'penalised' | 'none';
    priorSd: number | null;
    seMethod: 'cluster-robust' | 'model' | null;
    df: number | null;
    logLikelihood: number | null;
  };
  overall: PairStrength[];
  tieParameter: number | null;
  orderEffect: { estimate: number; se: number; p: number } | null;
  panelTest: PanelTest | null;
  lrTest: { chisq: number; df: number; p: number } | null;
  /** Null with fewer listeners than it needs; the likelihood ratio takes answers as independent and never stands in. */
  headlineTest: 'panelTest' | null;
  pairs: PairRow[];
  circularTriads: Triads[];
  bootstrap: {
    replicates: number;
    seed: number;
    chains: { chain: string; se: number; ci95: [number, number] }[];
  } | null;
}

const REPLICATES = 2000;
/** Listeners from which their own spread is used for standard errors. */
const ENOUGH_LISTENERS = 5;

/** Analyses pair judgements with the listener as the sampling unit. */
export function analyzePairs(
  rows: readonly PairJudgement[],
  seed: number,
): { analysis: PairAnalysis; warnings: Warning[] } {
  const { data, cells, shape, isConnected, allTies, fit, errors } = modelOf(rows);
  const warnings: Warning[] = [];
  const warn = (code: string, message: string) => warnings.push({ code, section: 'pair', message });
  const listeners = data.listeners.length;
  if (listeners < ENOUGH_LISTENERS) {
    warn('few-listeners', `pair answers from ${listeners} listeners; conclusions need more`);
  }
  if (data.judgements.some((j) => j.order === 0)) {
    warn('order-unknown', 'for some pair answers it is not known which clip came first');
  }
  if (!shape.withOrder) {
    warn('order-not-estimable', 'the effect of coming first cannot be told from the chains');
  }
  if (!isConnected) warn('disconnected', 'the chains fall into groups never compared');
  if (allTies) warn('all-ties', 'every pair answer is a tie');
  if (fit?.method === 'penalised') {
    warn('separation', 'some chain or order always won: strengths are held back by a prior');
  }
  const panel = panelTest(data);
  const lrTest = fit ? likelihoodRatio(cells, shape) : null;
  return {
    analysis: {
      fit: {
        method: fit?.method ?? 'none',
        priorSd: fit?.method === 'penalised' ? PRIOR_SD : null,
        seMethod: errors?.method ?? null,
        df: errors?.df ?? null,
        logLikelihood: fit?.logLikelihood ?? null,
      },
      overall: strengths(data, cells, fit, errors),
      tieParameter: fit?.logTie == null ? null : Math.exp(fit.logTie),
      orderEffect: orderEffect(fit, errors),
      panelTest: panel,
      lrTest,
      headlineTest: panel ? 'panelTest' : null,
      pairs: pairTable(data),
      circularTriads: circularTriads(data),
      bootstrap:
        fit?.method === 'ml' && listeners >= ENOUGH_LISTENERS
          ? bootstrap(data, shape, fit, seed)
          : null,
    },
    warnings,
  };
}

function likelihoodRatio(cells: readonly Cell[], shape: ModelShape): PairAnalysis['lrTest'] {
  const gain = supremum(cells, shape) - supremumWithoutStrengths(cells, shape);
  const chisq = Math.max(0, 2 * gain);
  const df = shape.chains - 1;
  return { chisq, df, p: chiSquareTail(chisq, df) };
}

interface StandardErrors {
  method: 'cluster-robust' | 'model';
  df: number | null;
  /** Covariance of all strengths. */
  covariance: Matrix;
  strengths: number[];
  strengthsModel: number[];
  order: number;
}

/** From free parameters to all strengths and the rest: the last strength is minus the sum of the others. */
function expansion(shape: ModelShape, size: number): Matrix {
  const free = shape.chains - 1;
  const expand = Matrix.zeros(size + 1, size);
  for (let i = 0; i < free; i++) {
    expand.set(i, i, 1);
    expand.set(free, i, -1);
  }
  for (let i = free; i < size; i++) expand.set(i + 1, i, 1);
  return expand;
}

/** Spread from the information, and from the listeners' own scores where there are enough (Liang & Zeger 1986). */
function standardErrors(fit: PairFit, data: PairData, shape: ModelShape): StandardErrors {
  const bread = inverseOf(fit.information);
  if (!bread) throw new Error('the information of a settled fit is singular');
  const size = fit.parameters.length;
  const expand = expansion(shape, size);
  const expanded = (covariance: Matrix) => expand.mmul(covariance).mmul(expand.transpose());
  const spread = (covariance: Matrix) =>
    covariance.diagonal().map((value) => Math.sqrt(Math.max(0, value)));
  const model = expanded(bread);
  const groups = data.listeners.length;
  const robust = fit.method === 'ml' && groups >= ENOUGH_LISTENERS;
  let used = model;
  if (robust) {
    const meat = Matrix.zeros(size, size);
    for (const cells of cellsOf(data, true).values()) {
      const column = Matrix.columnVector(scoreOf(cells, shape, fit.parameters));
      meat.add(column.mmul(column.transpose()));
    }
    used = expanded(bread.mmul(meat.mul(groups / (groups - 1))).mmul(bread));
  }
  const [errors, errorsModel] = [spread(used), spread(model)];
  return {
    method: robust ? 'cluster-robust' : 'model',
    df: robust ? groups - 1 : null,
    covariance: used.subMatrix(0, shape.chains - 1, 0, shape.chains - 1),
    strengths: errors.slice(0, shape.chains),
    strengthsModel: errorsModel.slice(0, shape.chains),
    order: shape.withOrder ? errors[shape.chains]! : Number.NaN,
  };
}

/** Strengths whose own covariance over listeners is known. */
export interface SoundFit {
  chains: string[];
  strengths: number[];
  /** Cluster-robust, of all strengths. */
  covariance: Matrix;
  /** Listeners less one. */
  df: number;
}

/** The fit by maximum likelihood with errors from the listeners' own scores; null where there is none. */
export function soundFit(rows: readonly PairJudgement[]): SoundFit | null {
  if (rows.length === 0) return null;
  const { data, fit, errors } = modelOf(rows);
  if (!fit || errors?.method !== 'cluster-robust' || errors.df === null) return null;
  const { covariance, df } = errors;
  return { chains: data.chains, strengths: fit.strengths, covariance, df };
}

/** Strengths with their errors, and how they were fitted, without any test. */
export function pairStrengths(rows: readonly PairJudgement[]): {
  method: PairAnalysis['fit']['method'];
  chains: PairStrength[];
  listeners: number;
  codes: string[];
} {
  const { data, cells, isConnected, allTies, fit, errors } = modelOf(rows);
  const listeners = data.listeners.length;
  const codes = [
    ...(listeners < ENOUGH_LISTENERS ? ['few-listeners'] : []),
    ...(isConnected ? [] : ['disconnected']),
    ...(allTies ? ['all-ties'] : []),
    ...(fit?.method === 'penalised' ? ['separation'] : []),
  ];
  const method = fit?.method ?? 'none';
  return { method, chains: strengths(data, cells, fit, errors), listeners, codes };
}

/** The model of some judgements, as far as there is one. */
const modelOf = once((rows: readonly PairJudgement[]) => {
  const data = indexJudgements(rows);
  const k = data.chains.length;
  const cells = cellsOf(data, false).get(0) ?? [];
  const withOrder = orderEstimable(cells, k);
  const withTies = cells.some(({ counts }) => counts[2] > 0);
  const shape: ModelShape = { chains: k, withOrder, withTies };
  const isConnected = connected(cells, k);
  const allTies = cells.every(({ counts }) => counts[0] + counts[1] === 0);
  const fit = isConnected && !allTies ? fitPairModel(cells, shape) : null;
  const errors = fit ? standardErrors(fit, data, shape) : null;
  return { data, cells, shape, isConnected, allTies, fit, errors };
});

function strengths(
  data: PairData,
  cells: readonly Cell[],
  fit: PairFit | null,
  errors: StandardErrors | null,
): PairStrength[] {
  const [wins, losses, ties] = [0, 1, 2].map(() => data.chains.map(() => 0)) as [
    number[],
    number[],
    number[],
  ];
  for (const { a, b, counts } of cells) {
    wins[a]! += counts[0];
    losses[b]! += counts[0];
    wins[b]! += counts[1];
    losses[a]! += counts[1];
    ties[a]! += counts[2];
    ties[b]! += counts[2];
  }
  const width = errors ? quantile(0.975, errors.df) : 0;
  return data.chains.map((chain, i) => {
    const estimate = fit?.strengths[i] ?? null;
    const se = errors?.strengths[i] ?? null;
    return {
      chain,
      logStrength: estimate,
      se,
      seModel: errors?.strengthsModel[i] ?? null,
      ci95:
        estimate === null || se === null ? null : [estimate - width * se, estimate + width * se],
      wins: wins[i]!,
      losses: losses[i]!,
      ties: ties[i]!,
      separated:
        fit?.method === 'penalised' && ties[i]! === 0 && (wins[i]! === 0 || losses[i]! === 0),
    };
  });
}

function orderEffect(
  fit: PairFit | null,
  errors: StandardErrors | null,
): PairAnalysis['orderEffect'] {
  if (!fit || !errors || fit.order === null) return null;
  const p = errors.order > 0 ? twoSidedP(fit.order / errors.order, errors.df) : 1;
  return { estimate: fit.order, se: errors.order, p };
}

/** Whole listeners drawn with replacement, the model refitted each time. */
function bootstrap(
  data: PairData,
  shape: ModelShape,
  fit: PairFit,
  seed: number,
): PairAnalysis['bootstrap'] {
  const random = new Random(seed);
  const refit = refitter(data, shape, fit);
  const draws = data.chains.map(() => new Float64Array(REPLICATES));
  for (let r = 0; r < REPLICATES; r++) {
    const strengths = refit(random);
    draws.forEach((values, i) => (values[r] = strengths?.[i] ?? 0));
  }
  return {
    replicates: REPLICATES,
    seed,
    chains: data.chains.map((chain, i) => {
      const values = draws[i]!.sort();
      const mean = values.reduce((a, b) => a + b, 0) / REPLICATES;
      const variance = values.reduce((sum, x) => sum + (x - mean) ** 2, 0) / (REPLICATES - 1);
      return {
        chain,
        se: Math.sqrt(variance),
        ci95: [quantileOf(values, 0.025), quantileOf(values, 0.975)],
      };
    }),
  };
}

/** Quantile of sorted values by linear interpolation at 1 + (n-1)·q. */
function quantileOf(sorted: Float64Array, q: number): number {
  const at = (sorted.length - 1) * q;
  const below = Math.floor(at);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below]! + (at - below) * (sorted[above]! - sorted[below]!);
}
