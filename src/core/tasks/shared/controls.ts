import { rounds } from '@/core/design/rounds';
import { SAME } from '@/core/design/rounds';
import type { Random } from '@/core/signal/random';
import {
  type Controls,
  LOUDER_DB,
  type OrderPlan,
  plain,
  type Task,
  type TrialDesign,
} from '../task';

/** A clip against itself and against itself 1 dB louder; which clip goes round over the seats. */
export function* controlTrials(plan: OrderPlan): Generator<TrialDesign[], never> {
  const { controls, random } = plan;
  const chains = plan.pair ?? Array.from({ length: plan.chains }, (_, i) => i);
  const selves = rounds(chains, random);
  const catches = rounds(
    chains.flatMap((chain) => [0, 1].map((place) => ({ chain, place }))),
    random,
  );
  for (;;) {
    const trials: TrialDesign[] = [];
    if (controls.self) {
      const clip = plain(selves.next().value);
      trials.push({ kind: 'self', slots: [clip, clip], right: null });
    }
    if (controls.levelCatch) {
      const { chain, place } = catches.next().value;
      const slots = [0, 1].map((at) => ({ chain, gainDb: at === place ? LOUDER_DB : 0 }));
      trials.push({ kind: 'louder', slots, right: null });
    }
    yield trials;
  }
}

/**
 * Whether a part's words stand for no chain, whatever was chosen for the sitting: with one word per chain a clip
 * that comes twice, or a pair that is asked again, would be known by its words.
 */
export function needsFreshWords({ freshWordsOnly }: Task, controls: Controls): boolean {
  return freshWordsOnly || controls.self || controls.levelCatch || controls.repeats > 0;
}

const sameSet = (x: TrialDesign | undefined, y: TrialDesign) =>
  x !== undefined && sharing(x, y) >= SAME;

/**
 * Puts controls among judged trials, each at a place drawn uniformly from all, so that no place tells what a
 * trial is for. A repeat is made of a trial that does not stand beside it, drawn after its place.
 * @param repeats how many judged trials are asked again, each at most once
 * @param again what is asked for a second time
 */
export function amongJudged(
  judged: readonly TrialDesign[],
  extras: readonly TrialDesign[],
  repeats: number,
  again: (trial: TrialDesign) => TrialDesign,
  random: Random,
): TrialDesign[] {
  const asked = Math.min(repeats, judged.length);
  const count = judged.length + extras.length + asked;
  const places = random.shuffled(Array.from({ length: count }, (_, i) => i));
  const order = new Array<TrialDesign | undefined>(count).fill(undefined);
  for (const [i, extra] of extras.entries()) order[places[i]!] = extra;
  const kept = places.slice(extras.length, extras.length + asked);
  const open = order.flatMap((trial, i) => (trial || kept.includes(i) ? [] : [i]));
  for (const [i, place] of open.entries()) order[place] = judged[i];
  let left = random.shuffled(judged);
  for (const place of kept) {
    const beside = [order[place - 1], order[place + 1]];
    const apart = left.filter((trial) => !beside.some((one) => sameSet(one, trial)));
    // Where all stand beside it (very few trials) any will do.
    const chosen = (apart.length > 0 ? apart : left)[0]!;
    left = left.filter((trial) => trial !== chosen);
    order[place] = again(chosen);
  }
  return order.flatMap((trial) => (trial ? [trial] : []));
}

/** How much two trials have in common: chains heard in both, and much more for the same set. */
export function sharing(x: TrialDesign, y: TrialDesign): number {
  const of = (trial: TrialDesign) => new Set(trial.slots.map(({ chain }) => chain));
  const [a, b] = [of(x), of(y)];
  const common = [...a].filter((chain) => b.has(chain)).length;
  return common === a.size && common === b.size ? SAME : common;
}
