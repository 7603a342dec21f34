import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { rankOf } from '../linear';
import type { Random } from '@/core/signal/random';
import type { PairData } from './judgements';

/** Standard deviation of the normal prior on strengths and order effect when separated. */
export const PRIOR_SD = 2.5;
/** Beyond this log odds of an observed combination the likelihood has no maximum worth the name. */
const LARGEST_LOG_ODDS = 15;
const SCORE_SETTLED = 1e-9;
/** A maximum was found when no score is larger. */
const SETTLED = 1e-8;
const MAX_STEPS = 200;

/** Same pair, same order, one listener (or the panel): how often each answer came. */
export interface Cell {
  a: number;
  b: number;
  order: -1 | 0 | 1;
  counts: [aWins: number, bWins: number, ties: number];
}

/** What is estimated: k-1 free strengths (their sum is zero), then order effect, then log tie weight. */
export interface ModelShape {
  chains: number;
  withOrder: boolean;
  withTies: boolean;
}

export interface PairFit {
  method: 'ml' | 'penalised';
  strengths: number[];
  order: number | null;
  logTie: number | null;
  logLikelihood: number;
  /** Information (with the prior's precision when penalised) over the free parameters. */
  information: Matrix;
  parameters: number[];
}

function sizeOf(shape: ModelShape): number {
  return shape.chains - 1 + Number(shape.withOrder) + Number(shape.withTies);
}

/** z as weights of the free parameters: λ_a - λ_b + δ·s, with λ_k = -Σ of the others. */
function contrast(cell: Cell, shape: ModelShape): number[] {
  const last = shape.chains - 1;
  const x = new Array<number>(sizeOf(shape)).fill(0);
  const add = (chain: number, sign: number) => {
    if (chain < last) x[chain]! += sign;
    else for (let j = 0; j < last; j++) x[j]! -= sign;
  };
  add(cell.a, 1);
  add(cell.b, -1);
  if (shape.withOrder) x[last] = cell.order;
  return x;
}

interface Evaluation {
  logLikelihood: number;
  score: number[];
  information: Matrix;
  largestLogOdds: number;
}

/** Cells with their contrasts, made once per fit. */
export type Prepared = { cell: Cell; x: readonly number[] }[];

export function prepareCells(cells: readonly Cell[], shape: ModelShape): Prepared {
  return cells.map((cell) => ({ cell, x: contrast(cell, shape) }));
}

/**
 * Log-likelihood, score and information of the model of Davidson (1970) with an order effect
 * (Davidson & Beaver 1977): weights e^(z/2), e^(-z/2) and ν for a, b and a tie.
 */
export function evaluate(
  prepared: Prepared,
  shape: ModelShape,
  parameters: readonly number[],
): Evaluation {
  const size = sizeOf(shape);
  const tieAt = shape.withTies ? size - 1 : -1;
  const linear = shape.withTies ? size - 1 : size;
  const logTie = tieAt >= 0 ? parameters[tieAt]! : Number.NEGATIVE_INFINITY;
  const score = new Array<number>(size).fill(0);
  // The lower triangle, row by row.
  const information = new Float64Array(size * size);
  let logLikelihood = 0;
  let largestLogOdds = 0;
  for (const { cell, x } of prepared) {
    let z = 0;
    for (let i = 0; i < linear; i++) z += x[i]! * parameters[i]!;
    largestLogOdds = Math.max(largestLogOdds, Math.abs(z));
    const top = Math.max(Math.abs(z) / 2, logTie);
    const wa = Math.exp(z / 2 - top);
    const wb = Math.exp(-z / 2 - top);
    const wt = tieAt >= 0 ? Math.exp(logTie - top) : 0;
    const sum = wa + wb + wt;
    const [pa, pb, pt] = [wa / sum, wb / sum, wt / sum];
    const logSum = top + Math.log(sum);
    const [na, nb, nt] = cell.counts;
    const n = na + nb + nt;
    logLikelihood += na * (z / 2 - logSum) + nb * (-z / 2 - logSum);
    if (nt > 0) logLikelihood += nt * (logTie - logSum);
    const mean = (pa - pb) / 2;
    const scoreZ = (na - nb) / 2 - n * mean;
    const infoZ = n * ((pa + pb) / 4 - mean * mean);
    for (let i = 0; i < linear; i++) {
      const own = x[i]!;
      if (own === 0) continue;
      score[i]! += scoreZ * own;
      for (let j = 0, at = i * size; j <= i; j++, at++) {
        const other = x[j]!;
        if (other !== 0) information[at]! += infoZ * own * other;
      }
    }
    if (tieAt >= 0) {
      score[tieAt]! += nt - n * pt;
      information[tieAt * size + tieAt]! += n * pt * (1 - pt);
      const cross = -n * pt * mean;
      for (let i = 0; i < linear; i++) information[tieAt * size + i]! += cross * x[i]!;
    }
  }
  const whole = Matrix.zeros(size, size);
  for (let i = 0; i < size; i++) {
    for (let j = 0; j <= i; j++) {
      whole.set(i, j, information[i * size + j]!);
      whole.set(j, i, information[i * size + j]!);
    }
  }
  return { logLikelihood, score, information: whole, largestLogOdds };
}

/** Precision of the prior over the free parameters: Σλ²/sd² with the sum constraint, δ²/sd², none on ν. */
function priorPrecision(shape: ModelShape): Matrix {
  const size = sizeOf(shape);
  const free = shape.chains - 1;
  const precision = Matrix.zeros(size, size);
  for (let i = 0; i < free; i++) {
    for (let j = 0; j < free; j++) precision.set(i, j, (i === j ? 2 : 1) / PRIOR_SD ** 2);
  }
  if (shape.withOrder) precision.set(free, free, 1 / PRIOR_SD ** 2);
  return precision;
}

function solve(matrix: Matrix, right: readonly number[]): number[] | null {
  const cholesky = new CholeskyDecomposition(matrix);
  if (!cholesky.isPositiveDefinite()) return null;
  const solution = cholesky.solve(Matrix.columnVector([...right])).to1DArray();
  return solution.every(Number.isFinite) ? solution : null;
}

function start(shape: ModelShape, cells: readonly Cell[]): number[] {
  const parameters = new Array<number>(sizeOf(shape)).fill(0);
  if (shape.withTies) {
    let [ties, decided] = [0, 0];
    for (const { counts } of cells) {
      ties += counts[2];
      decided += counts[0] + counts[1];
    }
    parameters[parameters.length - 1] = Math.log((2 * (ties + 0.5)) / (decided + 0.5));
  }
  return parameters;
}

function finished(
  method: PairFit['method'],
  shape: ModelShape,
  parameters: number[],
  logLikelihood: number,
  information: Matrix,
): PairFit {
  const free = shape.chains - 1;
  const strengths = parameters.slice(0, free);
  strengths.push(-strengths.reduce((a, b) => a + b, 0));
  return {
    method,
    strengths,
    order: shape.withOrder ? parameters[free]! : null,
    logTie: shape.withTies ? parameters[parameters.length - 1]! : null,
    logLikelihood,
    information,
    parameters,
  };
}

/**
 * Fits by maximum likelihood where the maximum exists (Ford 1957: every chain can be reached from
 * every other through wins or ties, and no log odds runs away), else with normal priors.
 * @param near a fit of much the same cells: the search begins there, and ends in the same maximum sooner
 */
export function fitPairModel(
  cells: readonly Cell[],
  shape: ModelShape,
  near: PairFit | null = null,
): PairFit {
  const prepared = prepareCells(cells, shape);
  const from =
    near?.method === 'ml' && near.parameters.length === sizeOf(shape)
      ? near.parameters
      : start(shape, cells);
  return (
    (stronglyConnected(cells, shape.chains) ? maximise(prepared, shape, from, null) : null) ??
    maximise(prepared, shape, start(shape, cells), priorPrecision(shape)) ??
    fail()
  );
}

function fail(): never {
  throw new Error('the penalised fit did not settle');
}

/**
 * Maximum likelihood of a model with other columns for z than one strength for each chain.
 * @param prepared cells, each with the weights of its free parameters: columns, order effect, log tie weight
 * @param shape as many chains as columns and one more
 * @returns null where it has no maximum worth the name
 */
export function fitColumns(prepared: Prepared, shape: ModelShape): PairFit | null {
  const cells = prepared.map(({ cell }) => cell);
  const fit = maximise(prepared, shape, start(shape, cells), null);
  if (!fit) return null;
  const { score } = evaluate(prepared, shape, fit.parameters);
  return Math.max(0, ...score.map(Math.abs)) < SETTLED ? fit : null;
}

/** Newton's method with halved steps; null when the information is singular or a log odds runs away. */
function maximise(
  prepared: Prepared,
  shape: ModelShape,
  from: readonly number[],
  precision: Matrix | null,
): PairFit | null {
  const penalised = (parameters: readonly number[]) => {
    const at = evaluate(prepared, shape, parameters);
    if (!precision) return { ...at, objective: at.logLikelihood };
    const pull = precision.mmul(Matrix.columnVector([...parameters])).to1DArray();
    const penalty = pull.reduce((sum, value, i) => sum + value * parameters[i]!, 0) / 2;
    return {
      ...at,
      objective: at.logLikelihood - penalty,
      score: at.score.map((value, i) => value - pull[i]!),
      information: Matrix.add(at.information, precision),
    };
  };
  let parameters = [...from];
  let now = penalised(parameters);
  for (let step = 0; step < MAX_STEPS; step++) {
    if (!precision && now.largestLogOdds > LARGEST_LOG_ODDS) return null;
    if (Math.max(...now.score.map(Math.abs)) < SCORE_SETTLED) break;
    const direction = solve(now.information, now.score);
    if (!direction) return null;
    let moved = false;
    for (let scale = 1; scale > 1e-6; scale /= 2) {
      const next = parameters.map((value, i) => value + scale * direction[i]!);
      const there = penalised(next);
      if (there.objective >= now.objective - 1e-12 * Math.abs(now.objective)) {
        [parameters, now, moved] = [next, there, true];
        break;
      }
    }
    if (!moved) break;
  }
  return finished(
    precision ? 'penalised' : 'ml',
    shape,
    parameters,
    now.logLikelihood,
    now.information,
  );
}

/** Largest log-likelihood, or its supremum when no maximum exists (stable to 1e-7). */
export function supremum(cells: readonly Cell[], shape: ModelShape): number {
  const prepared = prepareCells(cells, shape);
  const size = sizeOf(shape);
  let parameters = start(shape, cells);
  if (size === 0) return evaluate(prepared, shape, parameters).logLikelihood;
  let now = evaluate(prepared, shape, parameters);
  let quiet = 0;
  for (let step = 0; step < 2000 && quiet < 3; step++) {
    // A little ridge keeps the step finite where the information vanishes.
    const ridge = Matrix.eye(size, size).mul(1e-10 + 1e-8 * now.information.max());
    const direction = solve(Matrix.add(now.information, ridge), now.score) ?? now.score;
    const longest = Math.max(...direction.map(Math.abs));
    const before = now.logLikelihood;
    for (let scale = Math.min(1, 5 / longest); scale > 1e-9; scale /= 2) {
      const next = parameters.map((value, i) => value + scale * direction[i]!);
      const there = evaluate(prepared, shape, next);
      if (there.logLikelihood >= now.logLikelihood) {
        [parameters, now] = [next, there];
        break;
      }
    }
    quiet = now.logLikelihood - before < 1e-9 ? quiet + 1 : 0;
  }
  return now.logLikelihood;
}

/** Log-likelihood supremum with all strengths zero; order effect and ties kept. */
export function supremumWithoutStrengths(cells: readonly Cell[], shape: ModelShape): number {
  const merged = cells.map((cell) => ({ ...cell, a: 0, b: 0 }));
  return supremum(merged, { ...shape, chains: 1 });
}

/** One cell per pair, order and listener (or over all listeners). */
export function cellsOf(data: PairData, byListener: boolean): Map<number, Cell[]> {
  const groups = new Map<number, Map<string, Cell>>();
  for (const { listener, a, b, order, response } of data.judgements) {
    const group = byListener ? listener : 0;
    const cells = groups.get(group) ?? new Map<string, Cell>();
    groups.set(group, cells);
    const key = `${a}/${b}/${order}`;
    const cell = cells.get(key) ?? { a, b, order, counts: [0, 0, 0] };
    cells.set(key, cell);
    cell.counts[response === 'a' ? 0 : response === 'b' ? 1 : 2]++;
  }
  return new Map([...groups].map(([group, cells]) => [group, [...cells.values()]]));
}

/** Draws whole listeners with replacement, as many as there are, and adds up their cells. */
export function resampler(data: PairData): (random: Random) => Cell[] {
  const kinds = cellsOf(data, false).get(0) ?? [];
  const kindOf = new Map(kinds.map(({ a, b, order }, i) => [`${a}/${b}/${order}`, i]));
  // Of each listener: kind of a cell, then its three counts, again and again.
  const groups = [...cellsOf(data, true).values()].map((cells) =>
    Int32Array.from(
      cells.flatMap(({ a, b, order, counts }) => [kindOf.get(`${a}/${b}/${order}`)!, ...counts]),
    ),
  );
  return (random) => {
    const sums = new Int32Array(3 * kinds.length);
    for (let drawn = 0; drawn < groups.length; drawn++) {
      const own = groups[random.below(groups.length)]!;
      for (let n = 0; n < own.length; n += 4) {
        const at = 3 * own[n]!;
        sums[at]! += own[n + 1]!;
        sums[at + 1]! += own[n + 2]!;
        sums[at + 2]! += own[n + 3]!;
      }
    }
    const cells: Cell[] = [];
    for (let i = 0; i < kinds.length; i++) {
      const { a, b, order } = kinds[i]!;
      const [na, nb, nt] = [sums[3 * i]!, sums[3 * i + 1]!, sums[3 * i + 2]!];
      if (na + nb + nt > 0) cells.push({ a, b, order, counts: [na, nb, nt] });
    }
    return cells;
  };
}

function reachable(from: number, edges: readonly (readonly number[])[]): Set<number> {
  const seen = new Set([from]);
  const open = [from];
  for (let node = open.pop(); node !== undefined; node = open.pop()) {
    for (const next of edges[node]!) {
      if (seen.has(next)) continue;
      seen.add(next);
      open.push(next);
    }
  }
  return seen;
}

/** Whether every chain reaches every other along "beat or tied". */
function stronglyConnected(cells: readonly Cell[], chains: number): boolean {
  const forward: number[][] = Array.from({ length: chains }, () => []);
  const backward: number[][] = Array.from({ length: chains }, () => []);
  for (const { a, b, counts } of cells) {
    if (counts[0] + counts[2] > 0) {
      forward[a]!.push(b);
      backward[b]!.push(a);
    }
    if (counts[1] + counts[2] > 0) {
      forward[b]!.push(a);
      backward[a]!.push(b);
    }
  }
  return reachable(0, forward).size === chains && reachable(0, backward).size === chains;
}

/** Whether all chains hang together through comparisons at all. */
export function connected(cells: readonly Cell[], chains: number): boolean {
  const edges: number[][] = Array.from({ length: chains }, () => []);
  for (const { a, b } of cells) {
    edges[a]!.push(b);
    edges[b]!.push(a);
  }
  return reachable(0, edges).size === chains;
}

/** Whether the order column is independent of the chain contrasts over the observed combinations. */
export function orderEstimable(cells: readonly Cell[], chains: number): boolean {
  const rows = (withOrder: boolean) => {
    const shape = { chains, withOrder, withTies: false };
    return new Matrix(cells.map((cell) => [...contrast(cell, shape)]));
  };
  return rankOf(rows(true)) > rankOf(rows(false));
}
