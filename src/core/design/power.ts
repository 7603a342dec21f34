import {
  binomialAtMost,
  exactUpperTail,
  quantile,
  signTest,
} from '@/core/statistics/distributions';
import { type ForcedTask, GUESS, rightShare } from '@/core/statistics/psychometric';

const ALPHA = 0.05;
const WANTED_POWER = 0.8;

/**
 * Chance that an exact two-sided sign test on n decided judgements finds a true share of choices,
 * when the test is one of `family` and must pass Holm's first step (alpha / family).
 */
export function signTestPower(n: number, share: number, family = 1): number {
  const alpha = ALPHA / family;
  let critical = Math.floor(n / 2);
  while (critical >= 0 && signTest(critical, n) > alpha) critical--;
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
  return fewestFrom((n) => signTestPower(n, share, family));
}

function fewestFrom(power: (n: number) => number): number {
  const reach = 40;
  let run = 0;
  for (let n = 4; ; n++) {
    run = power(n) >= WANTED_POWER ? run + 1 : 0;
    if (run === reach || n > 20000) return n - reach + 1;
  }
}

/** Chance that the exact one-sided test against guessing finds a true share of right answers. */
function guessTestPower(task: ForcedTask, n: number, share: number, family: number): number {
  let critical = Math.ceil(n * GUESS[task]);
  while (critical <= n && exactUpperTail(critical, n, GUESS[task]) > ALPHA / family) critical++;
  return critical > n ? 0 : exactUpperTail(critical, n, share);
}

/** Smallest d′ that n trials of a task find in 4 of 5 cases, in tenths; null when even none wrong is not enough. */
export function detectableDPrime(task: ForcedTask, n: number, family = 1): number | null {
  for (let tenths = 1; tenths <= 60; tenths++) {
    const share = rightShare(task, tenths / 10);
    if (guessTestPower(task, n, share, family) >= WANTED_POWER) return tenths / 10;
  }
  return null;
}

/** Fewest trials of a task that find a d′ in 4 of 5 cases. */
export function trialsNeeded(task: ForcedTask, dPrime: number, family = 1): number {
  const share = rightShare(task, dPrime);
  return fewestFrom((n) => guessTestPower(task, n, share, family));
}

/**
 * Gap between two chains' mean ratings that a panel finds in 4 of 5 cases, by the paired t test at
 * Holm's first step: normal theory with the listener as the unit.
 * @param scatter standard deviation of a listener's difference between two chains, after averaging
 * @returns points of the scale, null for fewer than two listeners
 */
export function detectableGap(listeners: number, scatter: number, family = 1): number | null {
  if (listeners < 2) return null;
  const df = listeners - 1;
  const reach = quantile(1 - ALPHA / (2 * family), df) + quantile(WANTED_POWER, df);
  return (reach * scatter) / Math.sqrt(listeners);
}
