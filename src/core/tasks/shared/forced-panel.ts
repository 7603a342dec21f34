import type { Random } from '@/core/signal/random';
import { type Character, distance, type SimulatedListener } from '@/core/simulation/listeners';
import { quantile } from '@/core/statistics/distributions';
import { type ForcedTask, rightShare } from '@/core/statistics/psychometric';
import type { Answer, Power, TrialDesign } from '../task';
import { each, listenersOf, times } from './panel';

/** Trials that one listener bears of a task with a right answer, and the most that are proposed. */
export const FORCED_TRIALS = 6;
const MOST_PROPOSED = 15;
export const forcedTrials = (pairs: number) =>
  Math.max(FORCED_TRIALS, Math.min(MOST_PROPOSED, pairs));

/** How much listeners' hearing differs; assumed, as docs/methods.md says. */
const HEARING_SPREAD = 0.4;
/** d′ of a simulated listener per unit of difference in character. */
export const DISTANCE_SCALE = 0.35;

export function buysOfForced(seats: number, trials: number, pairs: number): string {
  const per = Math.floor((seats * trials) / pairs);
  return per === 0
    ? `Fewer than one trial for ${each(pairs)}: this can tell nothing.`
    : `About ${per} trial${per === 1 ? '' : 's'} for ${each(pairs)}, of ${listenersOf(seats)}.`;
}

/** Standard normal values in the middles of forty-one equal shares. */
const SPREAD = times(41, (i) => quantile((i + 0.5) / 41, null));

const STEP = 0.1;
const LARGEST = 12;

/** Shares of right answers read off a table, made on first use: one is asked for each listener of each panel. */
function tabled(exact: (dPrime: number) => number): (dPrime: number) => number {
  let table: number[] | null = null;
  return (dPrime) => {
    table ??= times(Math.round(LARGEST / STEP) + 2, (i) => exact(STEP * i));
    const at = Math.min(LARGEST, Math.max(0, dPrime)) / STEP;
    const [below, above] = [table[Math.floor(at)]!, table[Math.floor(at) + 1]!];
    return below + (at - Math.floor(at)) * (above - below);
  };
}

/** What to multiply hearing by, so that listeners who scatter are right as often, on average, as one with the d′. */
function scaleFor(dPrime: number, shareOf: (dPrime: number) => number): number {
  const wanted = shareOf(dPrime);
  const mean = (scale: number) =>
    SPREAD.reduce((sum, z) => sum + shareOf(scale * dPrime * Math.exp(HEARING_SPREAD * z)), 0) /
    SPREAD.length;
  let [low, high] = [0.5, 2];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (mean(middle) < wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Whether a d′ of the first two chains is found; all others sound alike.
 * @param slots that may be meant
 * @param exact share of right answers for a d′
 */
export function forcedPower(slots: readonly number[], exact: (dPrime: number) => number): Power {
  const shareOf = tabled(exact);
  const scales = new Map<number, number>();
  return {
    stated: { label: 'd′', unit: '', value: 1, least: 0.1, most: 6, times: 1 },
    names: () => '0 and 1',
    listener({ effect }, random) {
      const scale = scales.get(effect) ?? scaleFor(effect, shareOf);
      scales.set(effect, scale);
      const share = shareOf(effect * scale * Math.exp(HEARING_SPREAD * random.normal()));
      const guess = shareOf(0);
      return (trial) => {
        if (trial.kind === 'learning') return { learned: true };
        const differs = trial.slots.every(({ chain }) => chain < 2);
        return slotOf(random, differs ? share : guess, trial.right ?? 0, slots);
      };
    },
  };
}

/** The right slot in a share of trials, else one of the wrong ones. */
export function slotOf(
  random: Random,
  share: number,
  right: number,
  slots: readonly number[],
): Answer {
  if (random.uniform() < share) return { slot: right };
  const wrong = slots.filter((slot) => slot !== right);
  return { slot: wrong[random.below(wrong.length)]! };
}

/** An answer of who hears how far the odd or equal one stands from the others. */
export function distinguishes(
  listener: SimulatedListener,
  task: ForcedTask,
  trial: TrialDesign,
  characters: readonly Character[],
  slots: readonly number[],
): Answer {
  const right = trial.right ?? 0;
  const others = characters.map((one) => distance(one, characters[right]!));
  const share = rightShare(task, DISTANCE_SCALE * Math.max(...others));
  return slotOf(listener.random, share, right, slots);
}
