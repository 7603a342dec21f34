import { binomialAtMost, exactUpperTail, signTest } from '@/core/statistics/distributions';
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

/** Fewest trials of a task that find a d′ in 4 of 5 cases. */
export function trialsNeeded(task: ForcedTask, dPrime: number, family = 1): number {
  const share = rightShare(task, dPrime);
  return fewestFrom((n) => guessTestPower(task, n, share, family));
}
