/** What is weighed: a criterion and how much it counts, 0 to 5. */
export interface Weighted {
  name: string;
  weight: number;
}

/** A chain as it is weighed. */
export interface Candidate {
  name: string;
  /** How it was liked blind, 0 to 1; null where it was not heard. */
  sound: number | null;
  /** Points 1 to 5 by criterion. */
  points: ReadonlyMap<string, number>;
}

/** Practical marks of a chain, weighed. */
export interface PracticalScore {
  /** Σ weight·points / Σ weight over what was marked, 1 to 5; null where nothing was. */
  score: number | null;
  /** Share of all weight that was marked, 0 to 1; 0 where nothing has weight. */
  coverage: number;
}

const sum = (values: readonly number[]) => values.reduce((total, one) => total + one, 0);

/** The mean of the marks by weight, over marked criteria only. */
export function practicalScore(
  points: ReadonlyMap<string, number>,
  criteria: readonly Weighted[],
): PracticalScore {
  const marked = criteria.filter(({ name, weight }) => weight > 0 && points.has(name));
  const weight = sum(marked.map((one) => one.weight));
  const whole = sum(criteria.map((one) => one.weight));
  if (weight === 0) return { score: null, coverage: 0 };
  const total = sum(marked.map((one) => one.weight * points.get(one.name)!));
  return { score: total / weight, coverage: weight / whole };
}

/** Liking in several places, weighed; null where it was heard in none that counts. */
export function soundOf(
  places: readonly { value: number | null; weight: number }[],
): number | null {
  const heard = places.flatMap(({ value, weight }) =>
    value === null || weight <= 0 ? [] : [{ value, weight }],
  );
  const weight = sum(heard.map((one) => one.weight));
  return weight === 0 ? null : sum(heard.map((one) => one.weight * one.value)) / weight;
}

/**
 * Sound and marks in one number, 0 to 1: share·sound + (1 − share)·(score − 1)/4.
 * @returns null where one of the two is missing that counts
 */
export function totalOf(
  { sound, points }: Candidate,
  criteria: readonly Weighted[],
  soundShare: number,
): number | null {
  const { score } = practicalScore(points, criteria);
  if ((sound === null && soundShare > 0) || (score === null && soundShare < 1)) return null;
  return soundShare * (sound ?? 0) + (1 - soundShare) * (((score ?? 1) - 1) / 4);
}

const LEVEL = 1e-9;

/** Names by total, best first, those that are level together; what has no total is left out. */
export function orderOf(
  candidates: readonly Candidate[],
  criteria: readonly Weighted[],
  soundShare: number,
): string[][] {
  const rated = candidates
    .flatMap((one) => {
      const total = totalOf(one, criteria, soundShare);
      return total === null ? [] : [{ name: one.name, total }];
    })
    .sort((x, y) => y.total - x.total);
  const order: { names: string[]; total: number }[] = [];
  for (const { name, total } of rated) {
    const last = order[order.length - 1];
    if (last && last.total - total < LEVEL) last.names.push(name);
    else order.push({ names: [name], total });
  }
  return order.map(({ names }) => names);
}

/** One weight moved by one, and the order that comes of it. */
export interface Moved {
  criterion: string;
  weight: number;
  order: string[][];
}

const MOST_WEIGHT = 5;

/** Every weight moved by one either way, as far as the order then is another. */
export function movedOrders(
  candidates: readonly Candidate[],
  criteria: readonly Weighted[],
  soundShare: number,
): Moved[] {
  const now = JSON.stringify(orderOf(candidates, criteria, soundShare));
  return criteria.flatMap(({ name, weight }, i) =>
    [weight - 1, weight + 1].flatMap((moved) => {
      if (moved < 0 || moved > MOST_WEIGHT) return [];
      const other = criteria.map((one, j) => (i === j ? { ...one, weight: moved } : one));
      const order = orderOf(candidates, other, soundShare);
      return JSON.stringify(order) === now ? [] : [{ criterion: name, weight: moved, order }];
    }),
  );
}
