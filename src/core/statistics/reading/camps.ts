import { ALPHA } from '../words';
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { Random } from '@/core/signal/random';
import { sortedNames } from '@/core/text/order';
import { eigenvaluesOf, symmetric } from '../linear';
import { meanOf } from '../rating/cells';
import type { Read, ReadingRows } from './reading';
import { Outcomes, ratingValues, type ReadTask, topOf, type Values } from './shared';

/** Whether tastes differ along one axis (Forkman & Piepho 2014, first term). */
export interface Camps {
  task: ReadTask;
  listeners: number;
  chains: number;
  statistic: number;
  draws: number;
  p: number;
  /** Only with p under 5 %: the axis that tastes differ along, and where listeners stand on it. */
  axis: { chain: string; score: number }[] | null;
  scores: { listener: string; score: number }[] | null;
  /** The two ends of the axis; never two camps. */
  groups:
    | {
        side: 'positive' | 'negative';
        listeners: string[];
        chains: { chain: string; mean: number }[];
        top: string[];
      }[]
    | null;
}

const FEWEST_LISTENERS = 6;
const FEWEST_CHAINS = 3;
const DRAWS = 9999;
const NOTHING = 1e-9;
const SAME_SIZE = 1e-6;

interface Table {
  task: ReadTask;
  listeners: string[];
  chains: string[];
  values: number[][];
}

function tableOf(task: ReadTask, values: Values, complete: string[], chains: string[]): Table {
  return {
    task,
    listeners: complete,
    chains,
    values: complete.map((listener) =>
      chains.map((chain) => values.get(listener)?.get(chain) ?? Number.NaN),
    ),
  };
}

function ratingTable(rows: ReadingRows['rating']): Table {
  const values = ratingValues(rows);
  const chains = sortedNames(rows.map(({ chain }) => chain));
  const complete = sortedNames(values.keys()).filter((listener) =>
    chains.every((chain) => values.get(listener)?.has(chain)),
  );
  return tableOf('rating', values, complete, chains);
}

function pairTable(rows: ReadingRows['pair']): Table {
  const outcomes = Outcomes.of(rows);
  const chains = sortedNames(rows.flatMap(({ chain, chainB }) => [chain, chainB]));
  const complete = outcomes.listeners.filter((listener) =>
    chains.every((a, i) => chains.slice(i + 1).every((b) => outcomes.met(listener, a, b))),
  );
  return tableOf('pair', outcomes.values(), complete, chains);
}

/** Values less row and column means, plus the grand mean. */
function residuals(values: readonly (readonly number[])[]): Matrix {
  const rows = values.map(meanOf);
  const columns = values[0]!.map((_, j) => meanOf(values.map((row) => row[j]!)));
  const grand = meanOf(rows);
  return new Matrix(values.map((row, i) => row.map((v, j) => v - rows[i]! - columns[j]! + grand)));
}

/** Share of the largest eigenvalue of a cross product. */
function firstShare(cross: Matrix): number {
  return Math.max(...eigenvaluesOf(cross)) / cross.trace();
}

/** A χ² variable: twice a gamma variable of shape df / 2 (Marsaglia & Tsang 2000), which is at least ½ here. */
function chiSquare(df: number, random: Random): number {
  if (df === 1) return random.normal() ** 2;
  const d = df / 2 - 1 / 3;
  for (;;) {
    const x = random.normal();
    const v = (1 + x / Math.sqrt(9 * d)) ** 3;
    if (v > 0 && Math.log(random.uniform()) < (x * x) / 2 + d * (1 - v + Math.log(v))) {
      return 2 * d * v;
    }
  }
}

/**
 * Share under no axis at all, from matrices of independent standard normals. Their cross products are drawn as they
 * are (Bartlett 1933: a triangle of normals with roots of χ² on its diagonal), not the matrices.
 */
function chanceOf(statistic: number, rows: number, columns: number, seed: number): number {
  const random = Random.derived(seed, 'camps');
  const [size, df] = [Math.min(rows, columns), Math.max(rows, columns)];
  let asMuch = 0;
  for (let draw = 0; draw < DRAWS; draw++) {
    const root = Matrix.zeros(size, size);
    for (let i = 0; i < size; i++) {
      root.set(i, i, Math.sqrt(chiSquare(df - i, random)));
      for (let j = 0; j < i; j++) root.set(i, j, random.normal());
    }
    if (firstShare(symmetric(root.mmul(root.transpose()))) >= statistic) asMuch++;
  }
  return (1 + asMuch) / (1 + DRAWS);
}

function ends(
  { listeners, chains, values }: Table,
  left: Matrix,
): Pick<Camps, 'axis' | 'scores' | 'groups'> {
  const { rightSingularVectors: v, diagonal } = new SingularValueDecomposition(left, {
    autoTranspose: true,
  });
  const first = diagonal.indexOf(Math.max(...diagonal));
  const raw = v.getColumn(first);
  const size = Math.max(...raw.map(Math.abs));
  const leading = raw.findIndex((entry) => Math.abs(entry) >= size - SAME_SIZE);
  const axis = raw.map((entry) => (raw[leading]! < 0 ? -entry : entry));
  const scores = left.mmul(Matrix.columnVector(axis)).to1DArray();
  const groups = (['positive', 'negative'] as const).map((side) => {
    const members = scores.flatMap((score, g) =>
      (side === 'positive' ? score : -score) > NOTHING ? [g] : [],
    );
    const means = chains.map((chain, j) => ({
      chain,
      mean: meanOf(members.map((g) => values[g]![j]!)),
    }));
    return {
      side,
      listeners: members.map((g) => listeners[g]!),
      chains: means,
      top: topOf(means.map(({ chain, mean }) => ({ chain, strength: mean }))),
    };
  });
  return {
    axis: chains.map((chain, j) => ({ chain, score: axis[j]! })),
    scores: listeners.map((listener, g) => ({ listener, score: scores[g]! })),
    groups,
  };
}

/** The task with more complete listeners; ratings where both have as many. */
export function readCamps({ pair, rating }: ReadingRows, seed: number): Read<Camps | null> {
  if (pair.length + rating.length === 0) return { result: null, warnings: [] };
  const [rated, paired] = [ratingTable(rating), pairTable(pair)];
  const table = paired.listeners.length > rated.listeners.length ? paired : rated;
  const [n, k] = [table.listeners.length, table.chains.length];
  const message = 'whether tastes differ needs six listeners who answered for three chains or more';
  const nothing = {
    result: null,
    warnings: [{ code: 'not-defined', section: 'camps', message }],
  };
  if (n < FEWEST_LISTENERS || k < FEWEST_CHAINS) return nothing;
  const left = residuals(table.values);
  const squares = left.to1DArray().reduce((sum, x) => sum + x * x, 0);
  if (squares < NOTHING) return nothing;
  const statistic = firstShare(symmetric(left.transpose().mmul(left)));
  const p = chanceOf(statistic, n - 1, k - 1, seed);
  const result: Camps = {
    task: table.task,
    listeners: n,
    chains: k,
    statistic,
    draws: DRAWS,
    p,
    ...(p < ALPHA ? ends(table, left) : { axis: null, scores: null, groups: null }),
  };
  return { result, warnings: [] };
}
