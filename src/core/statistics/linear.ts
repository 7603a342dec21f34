import { EigenvalueDecomposition, Matrix, QrDecomposition } from 'ml-matrix';

/** Rank of a matrix of small whole numbers, by elimination on its Gram matrix. */
export function rankOf(matrix: Matrix): number {
  // Contrasts are small whole numbers, so the Gram matrix keeps the rank within rounding.
  const gram = matrix.transpose().mmul(matrix);
  const rows = gram.to2DArray();
  let rank = 0;
  for (let column = 0; column < gram.columns; column++) {
    let pivot = -1;
    for (let r = rank; r < rows.length; r++) {
      if (pivot < 0 || Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
    }
    if (pivot < 0 || Math.abs(rows[pivot]![column]!) < 1e-8) continue;
    [rows[rank], rows[pivot]] = [rows[pivot]!, rows[rank]!];
    for (let r = rank + 1; r < rows.length; r++) {
      const factor = rows[r]![column]! / rows[rank]![column]!;
      for (let c = column; c < gram.columns; c++) rows[r]![c]! -= factor * rows[rank]![c]!;
    }
    rank++;
  }
  return rank;
}

/** Inverse of a symmetric matrix, null when singular. */
export function inverseOf(matrix: Matrix): Matrix | null {
  if (matrix.rows === 0) return matrix;
  const qr = new QrDecomposition(matrix);
  return qr.isFullRank() ? qr.solve(Matrix.eye(matrix.rows, matrix.rows)) : null;
}

/**
 * Solves A x = b by Cholesky's factors, for small systems by the thousand.
 * @param matrix A, symmetric, row by row
 * @returns null where A is not positive definite
 */
export function solveDefinite(matrix: Float64Array, right: Float64Array): Float64Array | null {
  const n = right.length;
  const factor = new Float64Array(n * n);
  const x = right.slice();
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let value = matrix[i * n + j]!;
      for (let k = 0; k < j; k++) value -= factor[i * n + k]! * factor[j * n + k]!;
      if (i === j && !(value > 0)) return null;
      factor[i * n + j] = i === j ? Math.sqrt(value) : value / factor[j * n + j]!;
    }
    for (let k = 0; k < i; k++) x[i]! -= factor[i * n + k]! * x[k]!;
    x[i]! /= factor[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i]! -= factor[k * n + i]! * x[k]!;
    x[i]! /= factor[i * n + i]!;
  }
  for (let i = 0; i < n; i++) if (!Number.isFinite(x[i]!)) return null;
  return x;
}

/** What rounding made uneven about the diagonal is evened out. */
export function symmetric(matrix: Matrix): Matrix {
  return Matrix.add(matrix, matrix.transpose()).mul(0.5);
}

/** Eigenvalues of a symmetric matrix. */
export function eigenvaluesOf(matrix: Matrix): number[] {
  return new EigenvalueDecomposition(matrix, { assumeSymmetric: true }).realEigenvalues;
}

/** Standard error of the difference of two estimates, from their covariance. */
export function differenceError(covariance: Matrix, i: number, j: number): number {
  const v = covariance;
  return Math.sqrt(Math.max(0, v.get(i, i) + v.get(j, j) - 2 * v.get(i, j)));
}
