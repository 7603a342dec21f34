import type { Random } from '@/core/signal/random';

/** All items in random order, again and again: any stretch holds each equally often within one. */
export function* rounds<T>(items: readonly T[], random: Random): Generator<T, never> {
  for (;;) yield* random.shuffled(items);
}

/**
 * Orders so that neighbours share as little as can be.
 * @param sharing cost of two neighbours, 0 when they share nothing
 */
export function restful<T>(
  items: readonly T[],
  sharing: (x: T, y: T) => number,
  random: Random,
): T[] {
  let best: T[] = [...items];
  let bestCost = Number.POSITIVE_INFINITY;
  for (let attempt = 0; attempt < ATTEMPTS && bestCost > 0; attempt++) {
    const left = random.shuffled(items);
    const order = left.splice(-1);
    while (left.length > 0) {
      const last = order[order.length - 1];
      let pick = 0;
      for (let i = 1; i < left.length; i++) {
        if (sharing(left[i], last) < sharing(left[pick], last)) pick = i;
      }
      order.push(...left.splice(pick, 1));
    }
    const cost = order.reduce((sum, item, i) => sum + (i ? sharing(item, order[i - 1]) : 0), 0);
    if (cost < bestCost) [best, bestCost] = [order, cost];
  }
  return best;
}

const ATTEMPTS = 60;
