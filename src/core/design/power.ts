import { binomialAtMost, signTest } from '@/core/statistics/distributions';

const ALPHA = 0.05;
const WANTED_POWER = 0.8;

/**
 * Chance that an exact two-sided sign test on n decided judgements finds a true share of choices,
 * when the test is one of `family` and must pass Holm's first step (alpha / family).
 */
export function signTestPower(n: number, share: number, family = 1): number {
  const alpha = ALPHA / family;
  let critical = -1;
  while (critical + 1 <= n / 2 && signTest(critical + 1, n) <= alpha) critical++;
  if (critical < 0) return 0;
  return binomialAtMost(critical, n, 1 - share) + binomialAtMost(critical, n, share);
}

/**
 * Smallest share of choices (over one half) that n decided judgements find in 4 of 5 cases, in
 * whole percent; null when even unanimity is not enough.
 */
export function detectableShare(n: number, family = 1): number | null {
  for (let percent = 51; percent <= 100; percent++) {
    if (signTestPower(n, percent / 100, family) >= WANTED_POWER) return percent / 100;
  }
  return null;
}

/** Fewest decided judgements from which on the wanted power holds (exact tests saw-tooth). */
export function judgementsNeeded(share: number, family = 1): number {
  const reach = 40;
  let run = 0;
  for (let n = 4; ; n++) {
    run = signTestPower(n, share, family) >= WANTED_POWER ? run + 1 : 0;
    if (run === reach || n > 20000) return n - reach + 1;
  }
}
