import { solveDefinite } from './linear';

const row = (...values: number[]) => Float64Array.from(values);

it('solves a symmetric positive definite system', () => {
  // [4 2; 2 3] x = [10; 9]: by hand x = (3/2, 2).
  const x = solveDefinite(row(4, 2, 2, 3), row(10, 9));
  expect(x?.[0]).toBeCloseTo(1.5, 12);
  expect(x?.[1]).toBeCloseTo(2, 12);
  expect([...(solveDefinite(row(), row()) ?? [NaN])]).toEqual([]);
});

it('gives back what a system was made of, of any size', () => {
  for (const n of [1, 3, 8]) {
    // Hilbert's matrix with a ridge is definite, and far from diagonal.
    const matrix = Float64Array.from({ length: n * n }, (_, at) => {
      const [i, j] = [Math.floor(at / n), at % n];
      return 1 / (i + j + 1) + (i === j ? 0.1 : 0);
    });
    const wanted = Float64Array.from({ length: n }, (_, i) => i - 1.5);
    const right = Float64Array.from({ length: n }, (_, i) =>
      wanted.reduce((sum, x, j) => sum + matrix[i * n + j]! * x, 0),
    );
    const found = solveDefinite(matrix, right);
    wanted.forEach((x, i) => expect(found?.[i]).toBeCloseTo(x, 9));
  }
});

it.each([
  ['singular', row(1, 1, 1, 1)],
  ['indefinite', row(1, 2, 2, 1)],
  ['not a number', row(NaN, 0, 0, 1)],
])('has no answer for what is %s', (_, matrix) => {
  expect(solveDefinite(matrix, row(1, 2))).toBeNull();
});
