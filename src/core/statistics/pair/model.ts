import { Matrix } from 'ml-matrix';
import { rankOf, solveDefinite } from '../linear';
import type { Random } from '@/core/signal/random';
import type { PairData } from './judgements';

/** Standard deviation of the normal prior on strengths and order effect when separated. */
export const PRIOR_SD = 2.5;
/** Beyond this log odds of an observed combination the likelihood has no maximum worth the name. */
const LARGEST_LOG_ODDS = 15;
const SCORE_SETTLED = 1e-9;
/** From this log weight on a tie is certain to the last digit. */
const LARGEST_LOG_TIE = 300;
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

/**
 * Which combinations were asked, laid out flat: of each the few columns whose weights are not nothing. Made once and
 * filled with other counts as often as wanted.
 */
export interface Design {
  /** Columns of the log odds: a strength for each chain (or columns of one's own), then the order effect. */
  columns: number;
  /** How many of them, the first, sum to zero, so that the last of these is not free; 0 for none. */
  sumZero: number;
  /** Of each combination: where its weights begin; and where the last end. */
  from: Int32Array;
  column: Int32Array;
  weight: Float64Array;
  /** Room for one evaluation over all columns, which the next uses again. */
  room: Record<'values' | 'scores' | 'crosses' | 'squares', Float64Array>;
}

/** @param rows of each combination: its weights on the columns */
function designOf(
  rows: readonly (readonly (readonly [column: number, weight: number])[])[],
  columns: number,
  sumZero: number,
): Design {
  const from = new Int32Array(rows.length + 1);
  rows.forEach((row, i) => (from[i + 1] = from[i]! + row.length));
  const flat = rows.flat();
  const column = Int32Array.from(flat, ([at]) => at);
  const weight = Float64Array.from(flat, ([, by]) => by);
  const room = {
    values: new Float64Array(columns),
    scores: new Float64Array(columns),
    crosses: new Float64Array(columns),
    squares: new Float64Array(columns * columns),
  };
  return { columns, sumZero, from, column, weight, room };
}

/** z = λ_a - λ_b + δ·s, with one λ for each chain. */
function strengthDesign(cells: readonly Cell[], shape: ModelShape): Design {
  const rows = cells.map(({ a, b, order }) => [
    ...(a === b ? [] : [[a, 1] as const, [b, -1] as const]),
    ...(shape.withOrder && order !== 0 ? [[shape.chains, order] as const] : []),
  ]);
  return designOf(rows, shape.chains + Number(shape.withOrder), shape.chains);
}

/** @param rows of each combination: the weights of all columns, all of them free */
export function columnDesign(rows: readonly (readonly number[])[]): Design {
  const sparse = rows.map((row) =>
    row.flatMap((weight, column) => (weight === 0 ? [] : [[column, weight] as const])),
  );
  return designOf(sparse, rows[0]?.length ?? 0, 0);
}

/** Counts of cells in a row: a wins, b wins, ties. */
export function countsOf(cells: readonly Cell[]): Float64Array {
  return Float64Array.from(cells.flatMap(({ counts }) => counts));
}

interface Evaluation {
  logLikelihood: number;
  score: Float64Array;
  /** Symmetric, row by row. */
  information: Float64Array;
  largestLogOdds: number;
}

/**
 * Log-likelihood, score and information of the model of Davidson (1970) with an order effect
 * (Davidson & Beaver 1977): weights e^(z/2), e^(-z/2) and ν for a, b and a tie.
 * @param counts three for each combination; one that was never asked counts nothing
 */
export function evaluate(
  { columns, sumZero, from, column, weight, room }: Design,
  counts: ArrayLike<number>,
  parameters: ArrayLike<number>,
  withTies: boolean,
): Evaluation {
  const bound = sumZero - 1;
  const linear = sumZero > 0 ? columns - 1 : columns;
  const size = linear + Number(withTies);
  const tieAt = withTies ? linear : -1;
  /** Where the column of a free parameter is, the bound strength being left out. */
  const columnAt = (free: number) => (sumZero > 0 && free >= bound ? free + 1 : free);
  const { values, scores, crosses, squares } = room;
  for (const used of [values, scores, crosses, squares]) used.fill(0);
  for (let i = 0; i < linear; i++) {
    values[columnAt(i)] = parameters[i]!;
    if (i < bound) values[bound]! -= parameters[i]!;
  }
  const logTie = withTies ? Math.min(parameters[tieAt]!, LARGEST_LOG_TIE) : 0;
  const tieWeight = withTies ? Math.exp(logTie) : 0;
  let [logLikelihood, largestLogOdds, tieScore, tieSquare] = [0, 0, 0, 0];
  for (let cell = 0; cell + 1 < from.length; cell++) {
    const na = counts[3 * cell]!;
    const nb = counts[3 * cell + 1]!;
    const nt = counts[3 * cell + 2]!;
    const n = na + nb + nt;
    if (n === 0) continue;
    const begin = from[cell]!;
    const end = from[cell + 1]!;
    let z = 0;
    for (let i = begin; i < end; i++) z += weight[i]! * values[column[i]!]!;
    const steep = Math.abs(z);
    if (steep > largestLogOdds) largestLogOdds = steep;
    // All three weights over that of the likelier chain: one exponential, and none can overflow.
    const half = Math.exp(-steep / 2);
    const sum = 1 + half * half + tieWeight * half;
    const likelier = 1 / sum;
    const other = (half * half) / sum;
    const pa = z < 0 ? other : likelier;
    const pb = z < 0 ? likelier : other;
    const pt = (tieWeight * half) / sum;
    const logSum = steep / 2 + Math.log(sum);
    logLikelihood += na * (z / 2 - logSum) + nb * (-z / 2 - logSum);
    if (nt > 0) logLikelihood += nt * (logTie - logSum);
    const mean = (pa - pb) / 2;
    const scoreZ = (na - nb) / 2 - n * mean;
    const infoZ = n * ((pa + pb) / 4 - mean * mean);
    const cross = -n * pt * mean;
    tieScore += nt - n * pt;
    tieSquare += n * pt * (1 - pt);
    for (let i = begin; i < end; i++) {
      const at = column[i]!;
      const by = weight[i]!;
      scores[at]! += scoreZ * by;
      crosses[at]! += cross * by;
      const row = at * columns;
      for (let j = begin; j < end; j++) squares[row + column[j]!]! += infoZ * by * weight[j]!;
    }
  }
  // From all columns to the free parameters: each free strength takes as much away from the bound one.
  const folded = (all: Float64Array, i: number) =>
    all[columnAt(i)]! - (i < bound ? all[bound]! : 0);
  const score = new Float64Array(size);
  const information = new Float64Array(size * size);
  for (let i = 0; i < linear; i++) {
    score[i] = folded(scores, i);
    const row = columnAt(i) * columns;
    for (let j = 0; j <= i; j++) {
      const at = columnAt(j);
      let value = squares[row + at]!;
      if (i < bound) value -= squares[bound * columns + at]!;
      if (j < bound) value -= squares[row + bound]!;
      if (i < bound && j < bound) value += squares[bound * columns + bound]!;
      information[i * size + j] = value;
      information[j * size + i] = value;
    }
    if (!withTies) continue;
    const value = folded(crosses, i);
    information[i * size + tieAt] = value;
    information[tieAt * size + i] = value;
  }
  if (withTies) {
    score[tieAt] = tieScore;
    information[tieAt * size + tieAt] = tieSquare;
  }
  return { logLikelihood, score, information, largestLogOdds };
}

/** One listener's pull on each free parameter, where a fit of all has its maximum. */
export function scoreOf(
  cells: readonly Cell[],
  shape: ModelShape,
  parameters: readonly number[],
): number[] {
  const design = strengthDesign(cells, shape);
  return [...evaluate(design, countsOf(cells), parameters, shape.withTies).score];
}

/** Precision of the prior over the free parameters: Σλ²/sd² with the sum constraint, δ²/sd², none on ν. */
function priorPrecision(shape: ModelShape): Float64Array {
  const size = sizeOf(shape);
  const free = shape.chains - 1;
  const precision = new Float64Array(size * size);
  for (let i = 0; i < free; i++) {
    for (let j = 0; j < free; j++) precision[i * size + j] = (i === j ? 2 : 1) / PRIOR_SD ** 2;
  }
  if (shape.withOrder) precision[free * size + free] = 1 / PRIOR_SD ** 2;
  return precision;
}

function start(shape: ModelShape, counts: ArrayLike<number>): Float64Array {
  const parameters = new Float64Array(sizeOf(shape));
  if (shape.withTies) {
    let [ties, decided] = [0, 0];
    for (let i = 0; i < counts.length; i += 3) {
      ties += counts[i + 2]!;
      decided += counts[i]! + counts[i + 1]!;
    }
    parameters[parameters.length - 1] = Math.log((2 * (ties + 0.5)) / (decided + 0.5));
  }
  return parameters;
}

/** Where the likelihood, penalised or not, is largest. */
interface Maximum {
  method: PairFit['method'];
  parameters: Float64Array;
  at: Evaluation;
}

/** All strengths, the last from the sum of the others. */
function strengthsOf(parameters: Float64Array, { chains }: ModelShape): number[] {
  const strengths = [...parameters.subarray(0, chains - 1)];
  strengths.push(-strengths.reduce((a, b) => a + b, 0));
  return strengths;
}

function finished(shape: ModelShape, maximum: Maximum): PairFit {
  const { logLikelihood, information } = maximum.at;
  const parameters = [...maximum.parameters];
  const [free, size] = [shape.chains - 1, parameters.length];
  return {
    method: maximum.method,
    strengths: strengthsOf(maximum.parameters, shape),
    order: shape.withOrder ? parameters[free]! : null,
    logTie: shape.withTies ? parameters[size - 1]! : null,
    logLikelihood,
    information: size === 0 ? Matrix.zeros(0, 0) : Matrix.from1DArray(size, size, information),
    parameters,
  };
}

/**
 * Fits by maximum likelihood where the maximum exists (Ford 1957: every chain can be reached from
 * every other through wins or ties, and no log odds runs away), else with normal priors.
 */
export function fitPairModel(cells: readonly Cell[], shape: ModelShape): PairFit {
  const design = strengthDesign(cells, shape);
  return finished(shape, fitCounts(cells, design, countsOf(cells), shape, null));
}

/** @param near a fit of much the same counts: the search begins there, and ends in the same maximum sooner */
function fitCounts(
  ends: readonly { a: number; b: number }[],
  design: Design,
  counts: Float64Array,
  shape: ModelShape,
  near: PairFit | null,
): Maximum {
  const from =
    near?.method === 'ml' && near.parameters.length === sizeOf(shape)
      ? near.parameters
      : start(shape, counts);
  return (
    (stronglyConnected(ends, counts, shape.chains)
      ? maximise(design, counts, shape, from, null)
      : null) ??
    maximise(design, counts, shape, start(shape, counts), priorPrecision(shape)) ??
    fail()
  );
}

function fail(): never {
  throw new Error('the penalised fit did not settle');
}

/**
 * Maximum likelihood of a model with other columns for z than one strength for each chain.
 * @param design columns, then the order effect
 * @param shape as many chains as columns and one more
 * @returns null where it has no maximum worth the name
 */
export function fitColumns(
  design: Design,
  counts: Float64Array,
  shape: ModelShape,
): PairFit | null {
  const maximum = maximise(design, counts, shape, start(shape, counts), null);
  return maximum && largest(maximum.at.score) < SETTLED ? finished(shape, maximum) : null;
}

function largest(values: Float64Array): number {
  let most = 0;
  for (const value of values) most = Math.max(most, Math.abs(value));
  return most;
}

function moved(from: Float64Array, direction: Float64Array, scale: number): Float64Array {
  const to = new Float64Array(from.length);
  for (let i = 0; i < to.length; i++) to[i] = from[i]! + scale * direction[i]!;
  return to;
}

/** Newton's method with halved steps; null when the information is singular or a log odds runs away. */
function maximise(
  design: Design,
  counts: Float64Array,
  shape: ModelShape,
  from: ArrayLike<number>,
  precision: Float64Array | null,
): Maximum | null {
  const penalised = (parameters: Float64Array) => {
    const at = evaluate(design, counts, parameters, shape.withTies);
    if (!precision) return { at, objective: at.logLikelihood };
    const size = parameters.length;
    let penalty = 0;
    for (let i = 0; i < size; i++) {
      let pull = 0;
      for (let j = 0; j < size; j++) pull += precision[i * size + j]! * parameters[j]!;
      penalty += (pull * parameters[i]!) / 2;
      at.score[i]! -= pull;
    }
    for (let i = 0; i < size * size; i++) at.information[i]! += precision[i]!;
    return { at, objective: at.logLikelihood - penalty };
  };
  let parameters: Float64Array = new Float64Array(from);
  let now = penalised(parameters);
  for (let step = 0; step < MAX_STEPS; step++) {
    const { largestLogOdds, score, information } = now.at;
    if (!precision && largestLogOdds > LARGEST_LOG_ODDS) return null;
    if (largest(score) < SCORE_SETTLED) break;
    const direction = solveDefinite(information, score);
    if (!direction) return null;
    let found = false;
    for (let scale = 1; scale > 1e-6; scale /= 2) {
      const next = moved(parameters, direction, scale);
      const there = penalised(next);
      if (there.objective >= now.objective - 1e-12 * Math.abs(now.objective)) {
        [parameters, now, found] = [next, there, true];
        break;
      }
    }
    if (!found) break;
  }
  return { method: precision ? 'penalised' : 'ml', parameters, at: now.at };
}

/** Largest log-likelihood, or its supremum when no maximum exists (stable to 1e-7). */
export function supremum(cells: readonly Cell[], shape: ModelShape): number {
  const [design, counts] = [strengthDesign(cells, shape), countsOf(cells)];
  const at = (parameters: Float64Array) => evaluate(design, counts, parameters, shape.withTies);
  const size = sizeOf(shape);
  let parameters: Float64Array = start(shape, counts);
  let now = at(parameters);
  if (size === 0) return now.logLikelihood;
  let quiet = 0;
  for (let step = 0; step < 2000 && quiet < 3; step++) {
    // A little ridge keeps the step finite where the information vanishes.
    const ridge = 1e-10 + 1e-8 * Math.max(...now.information);
    const held = now.information.map((x, i) => (i % (size + 1) === 0 ? x + ridge : x));
    const direction = solveDefinite(held, now.score) ?? now.score;
    const longest = largest(direction);
    const before = now.logLikelihood;
    for (let scale = Math.min(1, 5 / longest); scale > 1e-9; scale /= 2) {
      const next = moved(parameters, direction, scale);
      const there = at(next);
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

/**
 * Draws whole listeners with replacement, as many as there are, and fits what they answered together.
 * @param near the fit of all: each search begins there
 * @returns strengths by chain of another draw; null where the drawn only tied
 */
export function refitter(
  data: PairData,
  { chains, withOrder }: Omit<ModelShape, 'withTies'>,
  near: PairFit | null = null,
): (random: Random) => number[] | null {
  const kinds = cellsOf(data, false).get(0) ?? [];
  const design = strengthDesign(kinds, { chains, withOrder, withTies: false });
  const kindOf = new Map(kinds.map(({ a, b, order }, i) => [`${a}/${b}/${order}`, i]));
  // Of each listener: kind of a cell, then its three counts, again and again.
  const groups = [...cellsOf(data, true).values()].map((cells) =>
    Int32Array.from(
      cells.flatMap(({ a, b, order, counts }) => [kindOf.get(`${a}/${b}/${order}`)!, ...counts]),
    ),
  );
  const counts = new Float64Array(3 * kinds.length);
  const times = new Int32Array(groups.length);
  return (random) => {
    times.fill(0);
    for (let drawn = 0; drawn < groups.length; drawn++) times[random.below(groups.length)]!++;
    counts.fill(0);
    for (let group = 0; group < groups.length; group++) {
      const often = times[group]!;
      if (often === 0) continue;
      const own = groups[group]!;
      for (let n = 0; n < own.length; n += 4) {
        const at = 3 * own[n]!;
        counts[at]! += often * own[n + 1]!;
        counts[at + 1]! += often * own[n + 2]!;
        counts[at + 2]! += often * own[n + 3]!;
      }
    }
    let decided = 0;
    let ties = 0;
    for (let i = 0; i < counts.length; i += 3) {
      decided += counts[i]! + counts[i + 1]!;
      ties += counts[i + 2]!;
    }
    if (decided === 0) return null;
    const shape = { chains, withOrder, withTies: ties > 0 };
    return strengthsOf(fitCounts(kinds, design, counts, shape, near).parameters, shape);
  };
}

/** @param leads whether one leads straight to another, row by row of the first */
function reachesAll(leads: Uint8Array, chains: number): boolean {
  const seen = new Uint8Array(chains);
  seen[0] = 1;
  const open = [0];
  let reached = 1;
  for (let node = open.pop(); node !== undefined; node = open.pop()) {
    for (let next = 0; next < chains; next++) {
      if (seen[next] || !leads[node * chains + next]) continue;
      seen[next] = 1;
      reached++;
      open.push(next);
    }
  }
  return reached === chains;
}

/** Whether every chain reaches every other along "beat or tied". */
function stronglyConnected(
  ends: readonly { a: number; b: number }[],
  counts: ArrayLike<number>,
  chains: number,
): boolean {
  const forward = new Uint8Array(chains * chains);
  const backward = new Uint8Array(chains * chains);
  for (let i = 0; i < ends.length; i++) {
    const { a, b } = ends[i]!;
    const [wonByA, wonByB, ties] = [counts[3 * i]!, counts[3 * i + 1]!, counts[3 * i + 2]!];
    if (wonByA + ties > 0) forward[a * chains + b] = backward[b * chains + a] = 1;
    if (wonByB + ties > 0) forward[b * chains + a] = backward[a * chains + b] = 1;
  }
  return reachesAll(forward, chains) && reachesAll(backward, chains);
}

/** Whether all chains hang together through comparisons at all. */
export function connected(cells: readonly Cell[], chains: number): boolean {
  const compared = new Uint8Array(chains * chains);
  for (const { a, b } of cells) compared[a * chains + b] = compared[b * chains + a] = 1;
  return reachesAll(compared, chains);
}

/** Whether the order column is independent of the chain contrasts over the observed combinations. */
export function orderEstimable(cells: readonly Cell[], chains: number): boolean {
  const rows = (withOrder: boolean) =>
    new Matrix(
      cells.map(({ a, b, order }) => {
        const contrast = new Array<number>(chains).fill(0);
        contrast[a]! += 1;
        contrast[b]! -= 1;
        return withOrder ? [...contrast, order] : contrast;
      }),
    );
  return rankOf(rows(true)) > rankOf(rows(false));
}
