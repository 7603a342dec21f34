import { allPairs } from '@/core/design/orders';
import { restful, rounds } from '@/core/design/rounds';
import { sortedNames } from '@/core/text/order';
import type { Heard, Role } from '@/core/statistics/observation';
import type { ForcedTask } from '@/core/statistics/psychometric';
import { sharing } from './controls';
import {
  type Answer,
  type AskedTrial,
  type OpenedTrial,
  type OrderPlan,
  plain,
  type RestoredTrial,
  type TrialDesign,
  WRONG_SHAPE,
} from '../task';

/** One way of presenting a pair: which of the two (0, 1) stands in each slot, and the right slot. */
export interface Presentation {
  of: readonly (0 | 1)[];
  right: number;
}

/**
 * Orders of tasks with a right answer: every pair equally often, and each time one of the presentations, drawn
 * anew. Nothing is evened out: whoever counts what was right so far knows nothing of what comes, and the binomial
 * test against guessing stays exact. In a room one order is heard by all, and whoever leans to a place would be right
 * together; there the right answer of each pair stands in each place equally often.
 */
export function forcedChoiceOrders(
  plan: OrderPlan,
  presentations: readonly Presentation[],
): TrialDesign[][] {
  const pairs = plan.pair ? [plan.pair] : allPairs(plan.chains);
  const next = rounds(
    pairs.map((_, i) => i),
    plan.random,
  );
  const places = [...new Set(presentations.map(({ right }) => right))];
  const turns = pairs.map(() => rounds(places, plan.random));
  const possible = (i: number) => {
    if (!plan.together) return presentations;
    const place = turns[i]!.next().value;
    return presentations.filter(({ right }) => right === place);
  };
  return Array.from({ length: plan.seats }, (_, seat) => {
    const trials = Array.from({ length: plan.trialsPerSeat }, (): TrialDesign => {
      const i = next.next().value;
      const among = possible(i);
      const { of, right } = among[plan.random.below(among.length)]!;
      return { kind: 'judged', slots: of.map((which) => plain(pairs[i]![which])), right };
    });
    // Of one pair all trials are alike in what they share.
    const begun = (seat * plan.trialsPerSeat) % pairs.length;
    return plan.pair
      ? trials
      : restful(trials, sharing, plan.random, { length: pairs.length, begun });
  });
}

/** @param from first slot that may be meant */
export function slotRefusal(answer: Answer, trial: AskedTrial, from: number): string | null {
  if (!('slot' in answer)) return WRONG_SHAPE;
  return answer.slot >= from && answer.slot < trial.slots ? null : WRONG_SHAPE;
}

/** Whether the slot that was meant is the right one; the two chains in the order of code points. */
export function rightOrWrong(
  answer: Answer,
  { kind, right }: OpenedTrial,
  two: readonly string[],
): { role: Role; chain: string; chainB: string; correct: boolean } | null {
  if (!('slot' in answer) || kind === 'learning') return null;
  const [chain, chainB] = sortedNames(two) as [string, string];
  return { role: kind, chain, chainB, correct: answer.slot === right };
}

/**
 * A trial of which a file only tells the two chains and whether the answer was right: which stood where is made up.
 * @param places which of the two stands in each slot; @param right the slot that is right @param wrong one that is not
 */
export function restoreForced(
  [said, ...more]: readonly Heard[],
  places: readonly (0 | 1)[],
  right: number,
  wrong: number,
): RestoredTrial | null {
  if (said?.kind !== 'forced' || more.length > 0) return null;
  const two = [said.chain, said.chainB];
  const chains = places.map((place) => two[place]!);
  return { chains, right, answer: { slot: said.correct ? right : wrong } };
}

/** What an answer to a task with a right answer says. */
export function observeForced(task: ForcedTask, answer: Answer, trial: OpenedTrial): Heard[] {
  const said = rightOrWrong(answer, trial, trial.chains);
  return said ? [{ kind: 'forced', task, ...said }] : [];
}
