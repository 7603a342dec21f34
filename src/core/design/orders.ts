import type { Random } from '@/core/signal/random';
import { restful, rounds, SAME } from './rounds';

/** One pair trial of a seat: which chain (by index) is presented first. */
export interface PairSlot {
  first: number;
  second: number;
}

export interface PairOrderPlan {
  chains: number;
  seats: number;
  trialsPerSeat: number;
  random: Random;
}

/** Every pair of chains once, lower index first. */
export function allPairs(chains: number): [number, number][] {
  const pairs: [number, number][] = [];
  for (let a = 0; a < chains; a++) for (let b = a + 1; b < chains; b++) pairs.push([a, b]);
  return pairs;
}

/**
 * Orders of a pair sitting, per seat: all pairs equally often (within one over any row of seats),
 * each chain first as often as second, pairs shuffled within each round of all pairs so that a chain rests
 * between trials where that leaves several to come next, and never the same pair twice running. Seats come in twos: the second of a two hears
 * the same pairs the other way round.
 * @throws RangeError for fewer than two chains or no trials
 */
export function pairOrders(plan: PairOrderPlan): PairSlot[][] {
  const { chains, seats, trialsPerSeat, random } = plan;
  if (chains < 2 || trialsPerSeat < 1 || seats < 1) {
    throw new RangeError('two chains, one seat and one trial are the least');
  }
  const pairs = allPairs(chains);
  const stream = rounds(pairs, random);
  const orders: PairSlot[][] = [];
  for (let seat = 0; seat < seats; seat += 2) {
    const drawn = Array.from({ length: trialsPerSeat }, () => stream.next().value);
    const slots = orient(drawn, chains, random);
    const mirrored = slots.map(({ first, second }) => ({ first: second, second: first }));
    const begun = ((seat / 2) * trialsPerSeat) % pairs.length;
    const at = { length: pairs.length, begun };
    orders.push(restful(slots, sharing, random, at), restful(mirrored, sharing, random, at));
  }
  return orders.slice(0, seats);
}

/** Chooses who comes first so that each chain of this seat is first as often as second, within one. */
function orient(pairs: readonly [number, number][], chains: number, random: Random): PairSlot[] {
  // Walking the pairs as edges along closed trails makes arrivals and departures equal everywhere.
  const edges = pairs.map(([a, b], id) => ({ id, a, b, used: false }));
  const at: (typeof edges)[] = Array.from({ length: chains }, () => []);
  for (const edge of random.shuffled(edges)) {
    at[edge.a]!.push(edge);
    at[edge.b]!.push(edge);
  }
  const slots: PairSlot[] = new Array<PairSlot>(pairs.length);
  const degree = at.map((list) => list.length);
  const walk = (start: number) => {
    for (let node = start; ;) {
      const edge = at[node]!.find((candidate) => !candidate.used);
      if (!edge) return;
      edge.used = true;
      const next = edge.a === node ? edge.b : edge.a;
      slots[edge.id] = { first: node, second: next };
      degree[node]!--;
      degree[next]!--;
      node = next;
    }
  };
  const nodes = random.shuffled(Array.from({ length: chains }, (_, i) => i));
  // Trails between chains of odd count first; what remains is closed.
  for (const node of nodes) if (degree[node]! % 2 === 1) walk(node);
  for (const node of nodes) while (degree[node]! > 0) walk(node);
  return slots;
}

/** Chains in common; the same pair is the same. */
function sharing(x: PairSlot, y: PairSlot): number {
  const common =
    Number(x.first === y.first || x.first === y.second) +
    Number(x.second === y.first || x.second === y.second);
  return common === 2 ? SAME : common;
}
