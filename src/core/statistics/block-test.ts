import { fTail } from './distributions';

/**
 * Block test on a table of b blocks (listeners) × k chains:
 * Q = (k-1)·Σ_j (S_j - S̄)² / Σ_g Σ_j (x_gj - x̄_g)². With ranks it is Friedman's statistic with tie
 * correction, with 0/1 Cochran's Q, with net wins a permutation test.
 * @returns null when no block varies
 */
export function blockStatistic(table: readonly (readonly number[])[]): number | null {
  const k = table[0]!.length;
  const sums = table[0]!.map((_, j) => table.reduce((sum, row) => sum + row[j]!, 0));
  const meanSum = sums.reduce((a, b) => a + b, 0) / k;
  const between = sums.reduce((sum, s) => sum + (s - meanSum) ** 2, 0);
  let within = 0;
  for (const row of table) {
    const mean = row.reduce((a, b) => a + b, 0) / k;
    for (const x of row) within += (x - mean) ** 2;
  }
  return within === 0 ? null : ((k - 1) * between) / within;
}

/**
 * p of the F form (Iman & Davenport 1980) of a block statistic, never below (k!)^(1-b), the value when
 * F is infinite.
 */
export function blockFormP(statistic: number, blocks: number, k: number): number {
  let logPermutations = 0;
  for (let i = 2; i <= k; i++) logPermutations += Math.log(i);
  const smallest = Math.exp((1 - blocks) * logPermutations);
  const rest = blocks * (k - 1) - statistic;
  const p = rest <= 0 ? 0 : fTail(((blocks - 1) * statistic) / rest, k - 1, (blocks - 1) * (k - 1));
  return Math.max(smallest, p);
}
