import type { Random } from '@/core/signal/random';

/** All items in random order, again and again: any stretch holds each equally often within one. */
export function* rounds<T>(items: readonly T[], random: Random): Generator<T, never> {
  for (;;) yield* random.shuffled(items);
}

/** Where a row of items stands in the rounds it was drawn from. */
export interface InRounds {
  /** Items of a whole round. */
  length: number;
  /** Items of the running round that were drawn before this row. */
  begun: number;
}

/** So many that the next one cannot be told from the one before. */
const CHOICES = 3;
const ATTEMPTS = 60;
/** Neighbours that share so much are the same again. */
export const SAME = 100;

/**
 * Orders so that neighbours share as little as leaves a choice: where only one item shares nothing with the one
 * before, it does not always follow, or whoever knows the rule would know it. Items stay within their round, so
 * that any whole round holds each of them.
 * @param sharing cost of two neighbours, 0 when they share nothing, SAME when they are alike
 */
export function restful<T>(
  items: readonly T[],
  sharing: (x: T, y: T) => number,
  random: Random,
  { length, begun }: InRounds,
): T[] {
  const parts: T[][] = [];
  for (let from = 0; from < items.length;) {
    const to = from === 0 ? length - begun : from + length;
    parts.push(items.slice(from, to));
    from = to;
  }
  const allowed = allowedSharing(items.slice(0, length), sharing);
  let best: T[] = [...items];
  let bestCost = Number.POSITIVE_INFINITY;
  for (let attempt = 0; attempt < ATTEMPTS && bestCost > 0; attempt++) {
    const order: T[] = [];
    let cost = 0;
    for (const part of parts) {
      const left = random.shuffled(part);
      while (left.length > 0) {
        const last = order.at(-1);
        const over = (item: T) =>
          last === undefined ? 0 : Math.max(0, sharing(item, last) - allowed);
        // The first of the least in a shuffled row is one of them at random.
        let pick = 0;
        for (let i = 1; i < left.length; i++) if (over(left[i]!) < over(left[pick]!)) pick = i;
        cost += over(left[pick]!);
        order.push(...left.splice(pick, 1));
      }
    }
    if (cost < bestCost) [best, bestCost] = [order, cost];
  }
  return best;
}

/** How much neighbours may share so that several could come next. */
function allowedSharing<T>(
  [first, ...others]: readonly T[],
  sharing: (x: T, y: T) => number,
): number {
  if (first === undefined) return 0;
  const levels = others.map((other) => sharing(first, other)).filter((level) => level < SAME);
  levels.sort((x, y) => x - y);
  return levels[Math.min(CHOICES, levels.length) - 1] ?? 0;
}
