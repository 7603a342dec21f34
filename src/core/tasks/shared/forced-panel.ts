import { ALPHA } from '@/core/statistics/words';
import { allPairs } from '@/core/design/orders';
import { detectableDPrime, trialsNeeded } from '@/core/design/power';
import type { Random } from '@/core/signal/random';
import { type Character, distance, type SimulatedListener } from '@/core/simulation/listeners';
import { exactUpperTail } from '@/core/statistics/distributions';
import { type ForcedTask, GUESS, rightShare } from '@/core/statistics/psychometric';
import type { Answer, Power, PowerQuestion, TrialDesign } from '../task';
import { each, times } from './panel';

/** Trials that one listener bears of a task with a right answer, and the most that are proposed. */
export const FORCED_TRIALS = 6;
const MOST_PROPOSED = 15;
export const forcedTrials = (pairs: number) =>
  Math.max(FORCED_TRIALS, Math.min(MOST_PROPOSED, pairs));

/** How much listeners' hearing differs; assumed, as docs/methods.md says. */
const HEARING_SPREAD = 0.4;
/** d′ of a simulated listener per unit of difference in character. */
export const DISTANCE_SCALE = 0.35;

export function buysOfForced(
  task: 'duo-trio' | 'triangle' | 'two-interval',
  trials: number,
  pairs: number,
): string {
  const per = Math.floor(trials);
  if (per === 0) return `Fewer than one trial for ${each(pairs)}: this can tell nothing.`;
  const found = detectableDPrime(task, per, pairs);
  const needed = trialsNeeded(task, 1, pairs);
  if (found === null) {
    return `About ${per} trial${per === 1 ? '' : 's'} for ${each(pairs)}: even if none were wrong, guessing could not be ruled out. A slight difference (d′ 1) needs ${needed}.`;
  }
  const share = Math.round(100 * rightShare(task, found));
  return `About ${per} trials for ${each(pairs)} find a difference that is heard right in ${share} of 100 (d′ ${found.toFixed(1)}), 8 times in 10. A slight one (d′ 1) needs ${needed}.`;
}

export function rightFound(
  { seats, trials, effect }: PowerQuestion,
  task: ForcedTask,
  pairs: number,
  random: Random,
): boolean {
  // Trials of the one pair that differs, shared out over the listeners.
  const n = Math.floor((seats * trials) / pairs);
  const shares = times(seats, () =>
    rightShare(task, effect * Math.exp(HEARING_SPREAD * random.normal())),
  );
  const right = times(n, (i) => random.uniform() < shares[i % seats]!).filter(Boolean).length;
  return exactUpperTail(right, n, GUESS[task]) < ALPHA / pairs;
}

/** Whether a d′ of one pair is found, each pair tested. */
export function forcedPower(task: ForcedTask): Power {
  return {
    stated: { label: 'd′', unit: '', value: 1, least: 0.1, most: 6, times: 1 },
    found: (question, random) =>
      rightFound(question, task, allPairs(question.chains).length, random),
  };
}

/** The right slot in a share of trials, else one of the wrong ones. */
export function slotOf(
  { random }: SimulatedListener,
  share: number,
  right: number,
  slots: readonly number[],
): Answer {
  if (random.uniform() < share) return { slot: right };
  const wrong = slots.filter((slot) => slot !== right);
  return { slot: wrong[random.below(wrong.length)]! };
}

/** An answer of who hears how far the odd or equal one stands from the others. */
export function toldApart(
  listener: SimulatedListener,
  task: ForcedTask,
  trial: TrialDesign,
  characters: readonly Character[],
  slots: readonly number[],
): Answer {
  const right = trial.right ?? 0;
  const others = characters.map((one) => distance(one, characters[right]!));
  const share = rightShare(task, DISTANCE_SCALE * Math.max(...others));
  return slotOf(listener, share, right, slots);
}
