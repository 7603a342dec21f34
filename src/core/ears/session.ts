import { Random } from '@/core/signal/random';
import { medianOf } from '@/core/statistics/percentile';
import { amountAt, foldsOf, placeOf } from './axis';
import type { Skill } from './skill';
import { chanceOfRight, estimateOf, type Given, nextPlace } from './threshold';

/** A session of about eight minutes; enough for the threshold, short enough for ears. */
export const MOST_TRIALS = 40;
/** A short test at one size. */
export const TEST_TRIALS = 16;

/** One of three sounds is meant. */
export const INTERVALS = 3;

/** What a session is drawn from. */
export interface SessionPlan {
  skill: Skill;
  choices: Readonly<Record<string, string>>;
  /** The one size of a test; null where the size follows the answers. */
  amount: number | null;
  /** A whole number of 32 bits. */
  seed: number;
}

/** An answer as it is kept. */
export interface Answered {
  /** Which of the three was taken to be meant. */
  chosen: number;
  seconds: number;
  /** Where on the axis the difference was played. */
  place: number;
}

/** One trial, as it is drawn. */
export interface Drawn {
  /** From 0. */
  position: number;
  /** Place on the skill's axis. */
  place: number;
  amount: number;
  /** Which of the three differs. */
  odd: number;
  way: 1 | -1;
}

/** Where a session stands: all answers judged, and the trial that is next. */
export interface Standing {
  given: readonly Given[];
  /** Null once it is over. */
  next: Drawn | null;
}

export const trialsOf = ({ amount }: Pick<SessionPlan, 'amount'>): number =>
  amount === null ? MOST_TRIALS : TEST_TRIALS;

/** Which of the three differs in a trial and which way: of the seed alone, whatever was answered. */
function drawn({ seed }: SessionPlan, position: number): Pick<Drawn, 'position' | 'odd' | 'way'> {
  const random = Random.derived(seed, `trial ${position}`);
  return { position, odd: random.below(INTERVALS), way: random.below(2) === 0 ? 1 : -1 };
}

/** Answers of a session, each right or not. */
export const judgedOf = (
  plan: SessionPlan,
  answers: readonly Pick<Answered, 'chosen' | 'place'>[],
): Given[] =>
  answers.map(({ chosen, place }, position) => ({
    place,
    right: chosen === drawn(plan, position).odd,
  }));

/**
 * Where a session stands after these answers. Sizes follow from the answers, the rest from the seed, so that whoever
 * has both can find everything again.
 */
export function standingOf(
  plan: SessionPlan,
  answers: readonly Pick<Answered, 'chosen' | 'place'>[],
): Standing {
  const given = judgedOf(plan, answers);
  if (given.length >= trialsOf(plan)) return { given, next: null };
  const { axis } = plan.skill;
  const place = plan.amount === null ? nextPlace(axis, given) : placeOf(axis, plan.amount);
  const amount = plan.amount ?? amountAt(axis, place);
  return { given, next: { place, amount, ...drawn(plan, given.length) } };
}

/** Answers that are looked at for weariness. */
const WINDOW = 8;
const SLOWER = 1.7;
const UNLIKELY = 0.05;
/** How somebody is taken to answer while it is asked whether they still do. */
const USUAL = { slope: 1.6, lapse: 0.01 };

/** Chance of at most so many right of trials with chances of their own. */
export function atMost(right: number, chances: readonly number[]): number {
  let counts = [1];
  for (const p of chances) {
    counts = Array.from(
      { length: counts.length + 1 },
      (_, n) => (counts[n] ?? 0) * (1 - p) + (counts[n - 1] ?? 0) * p,
    );
  }
  return counts.slice(0, right + 1).reduce((sum, p) => sum + p, 0);
}

/**
 * Whether somebody seems tired: the last answers took much longer than the first ones, or were right less often than
 * this person's own earlier answers let expect.
 * @returns by which of the two, or null
 */
export function tired(
  { skill }: Pick<SessionPlan, 'skill'>,
  given: readonly Given[],
  answers: readonly Answered[],
): 'slower' | 'fewer' | null {
  if (given.length < 3 * WINDOW) return null;
  const seconds = answers.map((one) => one.seconds);
  if (medianOf(seconds.slice(-WINDOW)) > SLOWER * medianOf(seconds.slice(0, WINDOW)))
    return 'slower';
  const before = estimateOf(skill.axis, given.slice(0, -WINDOW));
  const last = given.slice(-WINDOW);
  const folds = foldsOf(skill.axis);
  const chances = last.map(({ place }) =>
    chanceOfRight(folds, place, before.place, USUAL.slope, USUAL.lapse),
  );
  const right = last.filter((one) => one.right).length;
  return atMost(right, chances) < UNLIKELY ? 'fewer' : null;
}
