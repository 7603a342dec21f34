import { allPairs } from '@/core/design/orders';
import { restful, rounds } from '@/core/design/rounds';
import { sharing } from './controls';
import {
  type Answer,
  type AskedTrial,
  type OpenedTrial,
  type OrderPlan,
  plain,
  type ResultRow,
  type TrialDesign,
  WRONG_SHAPE,
} from './task';

/** One way of presenting a pair: which of the two (0, 1) stands in each slot, and the right slot. */
export interface Presentation {
  of: readonly (0 | 1)[];
  right: number;
}

/**
 * Orders of tasks with a right answer: every pair equally often, and each time one of the presentations, drawn
 * anew. Nothing is evened out: whoever counts what was right so far knows nothing of what comes, and the binomial
 * test against guessing stays exact.
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
  return Array.from({ length: plan.seats }, () => {
    const trials = Array.from({ length: plan.trialsPerSeat }, (): TrialDesign => {
      const i = next.next().value;
      const { of, right } = presentations[plan.random.below(presentations.length)];
      return { kind: 'judged', slots: of.map((which) => plain(pairs[i][which])), right };
    });
    // Of one pair all trials are alike in what they share.
    return plan.pair ? trials : restful(trials, sharing, plan.random);
  });
}

/** @param from first slot that may be meant */
export function slotRefusal(answer: Answer, trial: AskedTrial, from: number): string | null {
  if (!('slot' in answer)) return WRONG_SHAPE;
  return answer.slot >= from && answer.slot < trial.slots ? null : WRONG_SHAPE;
}

export function correctRow(
  task: ResultRow['task'],
  answer: Answer,
  { chains, right }: Pick<OpenedTrial, 'chains' | 'right'>,
): ResultRow[] {
  if (!('slot' in answer)) return [];
  const [chain, chainB] = [...new Set(chains)].sort();
  const correct = answer.slot === right ? '1' : '0';
  return [{ task, chain, chainB, first: '', response: '', correct }];
}
