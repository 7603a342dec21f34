import { Matrix } from 'ml-matrix';
import { fTail } from '../distributions';
import { eigenvaluesOf, inverseOf, rankOf, symmetric } from '../linear';
import type { PairData } from './judgements';
import {
  type Cell,
  cellsOf,
  columnDesign,
  countsOf,
  evaluate,
  fitColumns,
  type ModelShape,
} from './model';

/** Wald's F with a robust covariance (Hotelling 1931). */
export interface WaldF {
  F: number | null;
  df1: number | null;
  df2: number | null;
  p: number | null;
}

/** A model of pairs by columns of one's own, with its robust covariance. */
export interface ColumnsFit {
  /** Of the columns. */
  beta: number[];
  covariance: Matrix;
  listeners: number;
}

/** Smallest against largest eigenvalue from which a covariance counts as singular. */
const SINGULAR = 1e-10;

/**
 * Fits log odds that are sums of columns instead of one strength for each chain.
 * @param codes by chain: its weights on the columns
 * @returns "dependent" for columns that cannot be told apart, null where there is no maximum
 */
export function fitByColumns(
  data: PairData,
  codes: readonly (readonly number[])[],
): ColumnsFit | 'dependent' | null {
  const cells = cellsOf(data, false).get(0) ?? [];
  const columns = codes[0]!.length;
  const difference = ({ a, b }: Cell) => codes[a]!.map((x, i) => x - codes[b]![i]!);
  const design = new Matrix(cells.map(difference));
  if (columns === 0 || rankOf(design) < columns) return 'dependent';
  const withOrder =
    rankOf(new Matrix(cells.map((cell) => [...difference(cell), cell.order]))) > columns;
  const withTies = cells.some(({ counts }) => counts[2] > 0);
  const shape: ModelShape = { chains: columns + 1, withOrder, withTies };
  const designOf = (of: readonly Cell[]) =>
    columnDesign(of.map((cell) => [...difference(cell), ...(withOrder ? [cell.order] : [])]));
  if (cells.every(({ counts }) => counts[0] + counts[1] === 0)) return null;
  const fit = fitColumns(designOf(cells), countsOf(cells), shape);
  const bread = fit && inverseOf(fit.information);
  if (!fit || !bread) return null;
  const size = fit.parameters.length;
  const meat = Matrix.zeros(size, size);
  const groups = [...cellsOf(data, true).values()];
  for (const own of groups) {
    const at = evaluate(designOf(own), countsOf(own), fit.parameters, withTies);
    const score = Matrix.columnVector([...at.score]);
    meat.add(score.mmul(score.transpose()));
  }
  const g = groups.length;
  const covariance = bread.mmul(meat.mul(g / (g - 1))).mmul(bread);
  return {
    beta: fit.parameters.slice(0, columns),
    covariance: symmetric(covariance.subMatrix(0, columns - 1, 0, columns - 1)),
    listeners: g,
  };
}

/** Wald's F of some columns; null where listeners are too few or the covariance is singular. */
export function waldOfColumns(fit: ColumnsFit, from: number, columns: number): WaldF {
  const [g, q] = [fit.listeners, columns];
  const none = { F: null, df1: null, df2: null, p: null };
  const own = fit.covariance.subMatrix(from, from + q - 1, from, from + q - 1);
  const inverse = g > q && !isSingular(own) ? inverseOf(own) : null;
  if (!inverse) return none;
  const e = Matrix.columnVector(fit.beta.slice(from, from + q));
  const W = e.transpose().mmul(inverse).mmul(e).get(0, 0);
  const F = (W * (g - q)) / (q * (g - 1));
  return { F, df1: q, df2: g - q, p: fTail(F, q, g - q) };
}

function isSingular(covariance: Matrix): boolean {
  const values = eigenvaluesOf(covariance);
  return Math.min(...values) <= SINGULAR * Math.max(...values);
}
