import { exactUpperTail } from '@/core/statistics/distributions';
import { fewestRight } from '@/core/statistics/self-test';
import { amountAt } from './axis';
import { type SessionPlan, TEST_TRIALS } from './session';
import { CHANCE, type Estimate, estimateOf, type Given } from './threshold';

/** Fewer say nothing of a threshold. */
const LEAST_TRIALS = 10;
/** How sure it has to be that somebody does not guess, over a whole session. */
const SHOWN = 0.01;

/** A threshold, and how far it can be believed. */
export interface Threshold extends Estimate {
  right: number;
  trials: number;
  /** False for somebody who might be guessing, or who does not reach it at the largest size. */
  shown: boolean;
}

/** What a session came to. */
export type Outcome =
  | { kind: 'threshold'; threshold: Threshold }
  | { kind: 'test'; right: number; trials: number; needed: number; passed: boolean }
  | { kind: 'too few'; trials: number };

/** Chance of so many right answers, or more, from somebody who guesses: the size that is played never changes it. */
export const guessed = (right: number, trials: number): number =>
  exactUpperTail(right, trials, CHANCE);

/** @param given at least one answer */
export function thresholdOf(
  { skill }: Pick<SessionPlan, 'skill'>,
  given: readonly Given[],
): Threshold {
  const estimate = estimateOf(skill.axis, given);
  const right = given.filter((one) => one.right).length;
  const shown = guessed(right, given.length) < SHOWN && estimate.place < 1;
  return { ...estimate, right, trials: given.length, shown };
}

/** @param given all answers of the session, judged */
export function outcomeOf(plan: SessionPlan, given: readonly Given[]): Outcome {
  const trials = given.length;
  if (plan.amount === null) {
    if (trials < LEAST_TRIALS) return { kind: 'too few', trials };
    return { kind: 'threshold', threshold: thresholdOf(plan, given) };
  }
  if (trials < TEST_TRIALS) return { kind: 'too few', trials };
  const right = given.filter((one) => one.right).length;
  const needed = fewestRight(TEST_TRIALS, CHANCE)!;
  return { kind: 'test', right, trials, needed, passed: right >= needed };
}

/** The smallest size that somebody was shown to hear; null where nothing was shown. */
export function shownAmount(plan: SessionPlan, outcome: Outcome): number | null {
  if (outcome.kind === 'test') return outcome.passed ? plan.amount : null;
  if (outcome.kind === 'too few' || !outcome.threshold.shown) return null;
  // Nothing smaller than the axis was ever played.
  return amountAt(plan.skill.axis, Math.max(0, outcome.threshold.place));
}

/** What a session came to, in a sentence to whoever answered. */
export function outcomeText({ skill, amount }: SessionPlan, outcome: Outcome): string {
  if (outcome.kind === 'too few')
    return `Ended after ${outcome.trials} ${outcome.trials === 1 ? 'answer' : 'answers'}, too few to say anything.`;
  const { words, axis } = skill;
  if (outcome.kind === 'test') {
    const { right, trials, needed, passed } = outcome;
    const figures = `${right} of ${trials} right; ${needed} show that it is no guessing`;
    return passed
      ? `${words(amount!)}: heard (${figures}).`
      : `${words(amount!)}: not shown to be heard (${figures}).`;
  }
  const { place, from, to, right, trials, shown } = outcome.threshold;
  const counts = `${right} of ${trials} right`;
  if (!shown)
    return `Not shown that you hear it: ${counts}, where guessing gives ${Math.round(trials * CHANCE)}.`;
  const told = (at: number) => words(amountAt(axis, at));
  if (to <= 0) return `Heard at ${told(0)}, the smallest that is played (${counts}).`;
  const low = from <= 0 ? `${told(0)} or less` : told(from);
  const high = to >= 1 ? `${told(1)} or more` : told(to);
  return `Heard three times of four at ${told(Math.max(0, place))} (95 %: ${low} to ${high}; ${counts}).`;
}
