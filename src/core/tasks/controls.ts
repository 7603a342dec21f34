import { rounds } from '@/core/design/rounds';
import { LOUDER_DB, type OrderPlan, plain, type TrialDesign } from './task';

/** A clip against itself and against itself 1 dB louder; which clip goes round over the seats. */
export function* controlTrials(plan: OrderPlan): Generator<TrialDesign[], never> {
  const { controls, random } = plan;
  const chains = plan.pair ?? Array.from({ length: plan.chains }, (_, i) => i);
  const selves = rounds(chains, random);
  const louder = rounds(
    chains.flatMap((chain) => [0, 1].map((place) => ({ chain, place }))),
    random,
  );
  for (;;) {
    const trials: TrialDesign[] = [];
    if (controls.self) {
      const clip = plain(selves.next().value);
      trials.push({ kind: 'self', slots: [clip, clip], right: null });
    }
    if (controls.louder) {
      const { chain, place } = louder.next().value;
      const slots = [0, 1].map((at) => ({ chain, gainDb: at === place ? LOUDER_DB : 0 }));
      trials.push({ kind: 'louder', slots, right: null });
    }
    yield trials;
  }
}

/** How much two trials have in common: chains heard in both, and much more for the same set. */
export function sharing(x: TrialDesign, y: TrialDesign): number {
  const of = (trial: TrialDesign) => new Set(trial.slots.map(({ chain }) => chain));
  const [a, b] = [of(x), of(y)];
  const common = [...a].filter((chain) => b.has(chain)).length;
  return common === a.size && common === b.size ? 100 : common;
}
