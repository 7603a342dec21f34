import { Random } from '@/core/signal/random';

export interface RunPlan {
  chains: readonly string[];
  /** Index of the chain that returns; null without one. */
  reference: number | null;
  takes: number;
  order: 'rotated' | 'randomised';
  /** The reference stands again after so many other takes; 0 leaves only first and last. */
  referenceEvery: number;
  days: number;
  seed: number;
}

export interface RunStop {
  day: number;
  chain: number;
  takeNumber: number;
}

/**
 * In which order chains are recorded: every round holds each chain once, in rotated or drawn order, so
 * that a performer who warms up or tires does not do so on the same chain; the reference opens and
 * closes each day and returns at intervals, so that drift can be seen.
 */
export function runOrder(plan: RunPlan): RunStop[] {
  const { chains, reference, takes, days } = plan;
  const random = new Random(plan.seed);
  const others = chains.map((_, i) => i).filter((i) => i !== reference);
  const made = new Map<number, number>();
  const stops: RunStop[] = [];
  const perDay = Math.ceil(takes / days);
  for (let day = 1, round = 0; day <= days; day++) {
    const today: number[] = [];
    for (let i = 0; i < perDay && round < takes; i++, round++) {
      today.push(...roundOrder(others, round, plan.order, random));
    }
    for (const chain of withReference(today, reference, plan.referenceEvery)) {
      const takeNumber = (made.get(chain) ?? 0) + 1;
      made.set(chain, takeNumber);
      stops.push({ day, chain, takeNumber });
    }
  }
  return stops;
}

function roundOrder(
  others: readonly number[],
  round: number,
  order: RunPlan['order'],
  random: Random,
): number[] {
  if (order === 'rotated') return others.map((_, i) => others[(i + round) % others.length]!);
  return random.shuffled(others);
}

function withReference(today: number[], reference: number | null, every: number): number[] {
  if (reference === null || today.length === 0) return today;
  const out = [reference];
  today.forEach((chain, i) => {
    out.push(chain);
    const last = i === today.length - 1;
    if (last || (every > 0 && (i + 1) % every === 0)) out.push(reference);
  });
  return out;
}
