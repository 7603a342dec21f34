import { exactUpperTail } from '@/core/statistics/distributions';
import { fewestRight } from '@/core/statistics/self-test';
import { amountAt } from './axis';
import { type SessionPlan, TEST_TRIALS } from './session';
import { type Skill, sizeText } from './skill';
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

/** A size at which a range ends; beyond it nothing was played. */
interface End {
  size: number;
  beyond: boolean;
}

/** Which sentence is said of an outcome, with its counts, and its sizes on the skill's axis. */
export type Said =
  | { kind: 'tooFew'; trials: number }
  | { kind: 'heard' | 'unheard'; size: number; right: number; trials: number; needed: number }
  | { kind: 'guessed'; right: number; trials: number; guessing: number }
  | { kind: 'smallest'; size: number; right: number; trials: number }
  | { kind: 'threshold'; size: number; low: End; high: End; right: number; trials: number };

/** What is said of a session to whoever answered, in whichever language. */
export function saidOf({ skill: { axis }, amount }: SessionPlan, outcome: Outcome): Said {
  if (outcome.kind === 'too few') return { kind: 'tooFew', trials: outcome.trials };
  if (outcome.kind === 'test') {
    const { right, trials, needed, passed } = outcome;
    return { kind: passed ? 'heard' : 'unheard', size: amount!, right, trials, needed };
  }
  const { place, from, to, right, trials, shown } = outcome.threshold;
  const counts = { right, trials };
  if (!shown) return { kind: 'guessed', ...counts, guessing: Math.round(trials * CHANCE) };
  const at = (where: number) => amountAt(axis, Math.min(1, Math.max(0, where)));
  if (to <= 0) return { kind: 'smallest', size: at(0), ...counts };
  return {
    kind: 'threshold',
    size: at(place),
    low: { size: at(from), beyond: from <= 0 },
    high: { size: at(to), beyond: to >= 1 },
    ...counts,
  };
}

/** What is said, in English. */
export function saidText(skill: Skill, said: Said): string {
  if (said.kind === 'tooFew')
    return `Ended after ${said.trials} ${said.trials === 1 ? 'answer' : 'answers'}, too few to say anything.`;
  const counts = `${said.right} of ${said.trials} right`;
  if (said.kind === 'guessed')
    return `Not shown that you hear it: ${counts}, where guessing gives ${said.guessing}.`;
  const size = sizeText(skill, said.size);
  if (said.kind === 'smallest') return `Heard at ${size}, the smallest that is played (${counts}).`;
  if (said.kind === 'threshold') {
    const low = `${sizeText(skill, said.low.size)}${said.low.beyond ? ' or less' : ''}`;
    const high = `${sizeText(skill, said.high.size)}${said.high.beyond ? ' or more' : ''}`;
    return `Heard three times of four at ${size} (95 %: ${low} to ${high}; ${counts}).`;
  }
  const heard = said.kind === 'heard' ? 'heard' : 'not shown to be heard';
  return `${size}: ${heard} (${counts}; ${said.needed} show that it is no guessing).`;
}

/** What a session came to, in English. */
export const outcomeText = (plan: SessionPlan, outcome: Outcome): string =>
  saidText(plan.skill, saidOf(plan, outcome));
