import { CholeskyDecomposition, Matrix, SingularValueDecomposition } from 'ml-matrix';
import { symmetric } from '../linear';

/** What one listener gave: rows of the design and the values beside them. */
export interface Group {
  rows: readonly (readonly number[])[];
  values: readonly number[];
}

/** Value = design · beta + listener (random) + residual. */
export interface MixedFit {
  beta: number[];
  /** Covariance of beta. */
  covariance: Matrix;
  varListener: number;
  varResidual: number;
}

/** Sums of one listener, from which every ratio of variances is computed. */
interface Sums {
  n: number;
  column: Float64Array;
  value: number;
}

interface Prepared {
  size: number;
  cells: number;
  /** Square, row by row. */
  cross: Float64Array;
  right: Float64Array;
  squares: number;
  groups: Sums[];
}

function prepare(groups: readonly Group[], size: number): Prepared {
  const cross = new Float64Array(size * size);
  const right = new Float64Array(size);
  let [squares, cells] = [0, 0];
  const sums = groups.map(({ rows, values }): Sums => {
    const column = new Float64Array(size);
    rows.forEach((row, r) => {
      const y = values[r]!;
      squares += y * y;
      cells++;
      row.forEach((x, i) => {
        if (x === 0) return;
        column[i]! += x;
        right[i]! += x * y;
        row.forEach((other, j) => (cross[i * size + j]! += x * other));
      });
    });
    return { n: rows.length, column, value: values.reduce((sum, y) => sum + y, 0) };
  });
  return { size, cells, cross, right, squares, groups: sums };
}

interface Solved {
  beta: number[];
  inverse: Matrix;
  /** Weighted sum of squares left. */
  left: number;
  /** Of the weighted cross product. */
  logDeterminant: number;
}

/** Generalised least squares at a ratio of variances (listener to residual); null when the design is dependent. */
function solveAt(of: Prepared, ratio: number): Solved | null {
  const { size } = of;
  const cross = of.cross.slice();
  const right = of.right.slice();
  let squares = of.squares;
  for (const { n, column, value } of of.groups) {
    const weight = ratio / (1 + ratio * n);
    squares -= weight * value * value;
    for (let i = 0; i < size; i++) {
      if (column[i] === 0) continue;
      const by = weight * column[i]!;
      right[i]! -= by * value;
      for (let j = 0; j < size; j++) cross[i * size + j]! -= by * column[j]!;
    }
  }
  const cholesky = new CholeskyDecomposition(Matrix.from1DArray(size, size, cross));
  if (!cholesky.isPositiveDefinite()) return null;
  const inverse = cholesky.solve(Matrix.eye(size, size));
  const beta = inverse.mmul(Matrix.columnVector(right)).to1DArray();
  const explained = beta.reduce((sum, b, i) => sum + b * right[i]!, 0);
  const factors = cholesky.lowerTriangularMatrix.diagonal();
  return {
    beta,
    inverse,
    left: Math.max(0, squares - explained),
    logDeterminant: 2 * factors.reduce((sum, d) => sum + Math.log(d), 0),
  };
}

/** Slope of −2 × the profiled restricted log-likelihood over the ratio (Patterson & Thompson 1971). */
function slopeAt(of: Prepared, ratio: number): number {
  const at = solveAt(of, ratio);
  if (!at) return Number.NaN;
  let [logs, trace, squares] = [0, 0, 0];
  for (const { n, column, value } of of.groups) {
    const one = 1 + ratio * n;
    const s = Matrix.columnVector(column);
    const rest = value - column.reduce((sum, x, i) => sum + x * at.beta[i]!, 0);
    logs += n / one;
    trace -= s.transpose().mmul(at.inverse).mmul(s).get(0, 0) / (one * one);
    squares -= (rest * rest) / (one * one);
  }
  return logs + trace + ((of.cells - of.size) * squares) / at.left;
}

function deviance(of: Prepared, ratio: number): number {
  const at = solveAt(of, ratio);
  if (!at || at.left <= 0) return Number.POSITIVE_INFINITY;
  const logs = of.groups.reduce((sum, { n }) => sum + Math.log1p(ratio * n), 0);
  return (of.cells - of.size) * Math.log(at.left) + logs + at.logDeterminant;
}

const ratioOf = (share: number) => share / (1 - share);
const PLACES = 64;

/** The ratio of variances with the greatest restricted likelihood; 0 at the least. */
function bestRatio(of: Prepared): number {
  // By the share of the listeners in the whole variance, which is bounded.
  const shares = Array.from({ length: PLACES }, (_, i) => i / PLACES);
  const heights = shares.map((share) => deviance(of, ratioOf(share)));
  const least = heights.indexOf(Math.min(...heights));
  if (least === 0 && slopeAt(of, 0) >= 0) return 0;
  let low = shares[Math.max(0, least - 1)]!;
  let high = least + 1 < PLACES ? shares[least + 1]! : 1 - 1e-12;
  for (let i = 0; i < 200 && high - low > 1e-14; i++) {
    const middle = (low + high) / 2;
    if (slopeAt(of, ratioOf(middle)) < 0) low = middle;
    else high = middle;
  }
  return ratioOf((low + high) / 2);
}

function fitted(of: Prepared, ratio: number): MixedFit | null {
  const at = solveAt(of, ratio);
  if (!at) return null;
  const varResidual = at.left / (of.cells - of.size);
  return {
    beta: at.beta,
    covariance: at.inverse.mul(varResidual),
    varListener: ratio * varResidual,
    varResidual,
  };
}

/**
 * Restricted maximum likelihood of a model with the listener as a random effect, its variance at least 0.
 * @param size columns of the design, which must be independent
 * @returns null for a dependent design, or without degrees of freedom
 */
export function fitMixedModel(groups: readonly Group[], size: number): MixedFit | null {
  const of = prepare(groups, size);
  if (of.cells <= size || !solveAt(of, 0)) return null;
  return fitted(of, bestRatio(of));
}

/** Generalised least squares with the ratio of variances held; null for a dependent design. */
export function solveMixedModel(
  groups: readonly Group[],
  size: number,
  ratio: number,
): number[] | null {
  return solveAt(prepare(groups, size), ratio)?.beta ?? null;
}

/** What the design and the listeners, as fixed effects, leave: sum of squares about each listener's own mean. */
export function residualWithin(groups: readonly Group[], size: number): number {
  const rows: number[][] = [];
  const values: number[] = [];
  for (const group of groups) {
    const n = group.rows.length;
    const middle = Array.from(
      { length: size },
      (_, i) => group.rows.reduce((sum, row) => sum + row[i]!, 0) / n,
    );
    const centre = group.values.reduce((sum, y) => sum + y, 0) / n;
    group.rows.forEach((row, r) => {
      rows.push(row.map((x, i) => x - middle[i]!));
      values.push(group.values[r]! - centre);
    });
  }
  const design = new Matrix(rows);
  const beta = new SingularValueDecomposition(design, { autoTranspose: true }).solve(
    Matrix.columnVector(values),
  );
  const left = Matrix.sub(Matrix.columnVector(values), design.mmul(beta));
  return left.to1DArray().reduce((sum, e) => sum + e * e, 0);
}

/**
 * Wald's F of q contrasts of beta being zero: (L β)ᵀ (L V Lᵀ)⁻¹ (L β) / q.
 * @param contrasts q × size
 */
export function waldF({ beta, covariance }: MixedFit, contrasts: Matrix): number | null {
  const values = contrasts.mmul(Matrix.columnVector(beta));
  const spread = contrasts.mmul(covariance).mmul(contrasts.transpose());
  const cholesky = new CholeskyDecomposition(symmetric(spread));
  if (!cholesky.isPositiveDefinite()) return null;
  return values.transpose().mmul(cholesky.solve(values)).get(0, 0) / contrasts.rows;
}
