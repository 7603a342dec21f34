import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';
import binomialCdf from '@stdlib/stats-base-dists-binomial-cdf';
import chisquareCdf from '@stdlib/stats-base-dists-chisquare-cdf';
import fCdf from '@stdlib/stats-base-dists-f-cdf';
import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import tCdf from '@stdlib/stats-base-dists-t-cdf';
import tQuantile from '@stdlib/stats-base-dists-t-quantile';

/** Upper tail of chi-square. */
export function chiSquareTail(x: number, df: number): number {
  return 1 - chisquareCdf(x, df);
}

/** Upper tail of F; through 1/F where that keeps the digits of a small tail. */
export function fTail(x: number, df1: number, df2: number): number {
  if (x === Number.POSITIVE_INFINITY) return 0;
  return x > 1 ? fCdf(1 / x, df2, df1) : 1 - fCdf(x, df1, df2);
}

/** Two-sided p of a ratio to its standard error: normal when df is null, else t. */
export function twoSidedP(ratio: number, df: number | null): number {
  const below = -Math.abs(ratio);
  return 2 * (df === null ? normalCdf(below, 0, 1) : tCdf(below, df));
}

/** P(T ≤ x) of Student's t. */
export function tAtMost(x: number, df: number): number {
  return tCdf(x, df);
}

/** Quantile of the same family as twoSidedP. */
export function quantile(p: number, df: number | null): number {
  return df === null ? normalQuantile(p, 0, 1) : tQuantile(p, df);
}

/** P(X ≤ x) for X ~ Bin(n, p). */
export function binomialAtMost(x: number, n: number, p: number): number {
  return x < 0 ? 0 : binomialCdf(x, n, p);
}

/** Exact two-sided sign test on x of n against one half; n = 0 gives 1. */
export function signTest(x: number, n: number): number {
  return n === 0 ? 1 : Math.min(1, 2 * binomialAtMost(Math.min(x, n - x), n, 0.5));
}

/** P(X ≥ x), X ~ Bin(n, guess): exact test against guessing. */
export function exactUpperTail(x: number, n: number, guess: number): number {
  // As the lower tail of the misses, so that small values keep their digits.
  return x <= 0 ? 1 : binomialAtMost(n - x, n, 1 - guess);
}

/** Exact 95 % interval of a proportion (Clopper & Pearson 1934). */
export function clopperPearson(x: number, n: number, level = 0.95): [number, number] {
  const tail = (1 - level) / 2;
  return [
    x === 0 ? 0 : betaQuantile(tail, x, n - x + 1),
    x === n ? 1 : betaQuantile(1 - tail, x + 1, n - x),
  ];
}

/**
 * Holm (1979): sorted p(1) ≤ … ≤ p(m), adjusted p(i) = max over j ≤ i of min(1, (m-j+1)·p(j)).
 * Null entries are left out of the family and stay null.
 */
export function holm(pValues: readonly (number | null)[]): (number | null)[] {
  const order = pValues
    .map((p, index) => ({ p, index }))
    .filter((entry): entry is { p: number; index: number } => entry.p !== null)
    .sort((a, b) => a.p - b.p);
  const adjusted: (number | null)[] = pValues.map(() => null);
  let running = 0;
  order.forEach(({ p, index }, rank) => {
    running = Math.max(running, Math.min(1, (order.length - rank) * p));
    adjusted[index] = running;
  });
  return adjusted;
}
