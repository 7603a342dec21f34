import { Random } from '@/core/signal/random';

/** One pair trial of a seat: which chain (by index) is presented first. */
export interface PairSlot {
  first: number;
  second: number;
}

export interface PairOrderPlan {
  chains: number;
  seats: number;
  trialsPerSeat: number;
  seed: number;
}

const ATTEMPTS = 60;

/** Every pair of chains once, lower index first. */
export function allPairs(chains: number): [number, number][] {
  const pairs: [number, number][] = [];
  for (let a = 0; a < chains; a++) for (let b = a + 1; b < chains; b++) pairs.push([a, b]);
  return pairs;
}

/**
 * Orders of a pair sitting, per seat: all pairs equally often (within one over any row of seats),
 * each chain first as often as second, pairs shuffled so that a chain rests between trials where
 * that is possible, and never the same pair twice running. Seats come in twos: the second of a two hears
 * the same pairs the other way round.
 * @throws RangeError for fewer than two chains or no trials
 */
export function pairOrders(plan: PairOrderPlan): PairSlot[][] {
  const { chains, seats, trialsPerSeat, seed } = plan;
  if (chains < 2 || trialsPerSeat < 1 || seats < 1) {
    throw new RangeError('two chains, one seat and one trial are the least');
  }
  const random = new Random(seed);
  const stream = pairStream(chains, random);
  const orders: PairSlot[][] = [];
  for (let seat = 0; seat < seats; seat += 2) {
    const drawn = Array.from({ length: trialsPerSeat }, () => stream.next().value);
    const slots = orient(drawn, chains, random);
    orders.push(restful(slots, random));
    const mirrored = slots.map(({ first, second }) => ({ first: second, second: first }));
    orders.push(restful(mirrored, random));
  }
  return orders.slice(0, seats);
}

/** All pairs in random order, again and again: any stretch holds each pair equally often within one. */
function* pairStream(chains: number, random: Random): Generator<[number, number], never> {
  for (;;) yield* random.shuffled(allPairs(chains));
}

/** Chooses who comes first so that each chain of this seat is first as often as second, within one. */
function orient(pairs: readonly [number, number][], chains: number, random: Random): PairSlot[] {
  // Walking the pairs as edges along closed trails makes arrivals and departures equal everywhere.
  const edges = pairs.map(([a, b], id) => ({ id, a, b, used: false }));
  const at: (typeof edges)[] = Array.from({ length: chains }, () => []);
  for (const edge of random.shuffled(edges)) {
    at[edge.a].push(edge);
    at[edge.b].push(edge);
  }
  const slots: PairSlot[] = new Array<PairSlot>(pairs.length);
  const degree = at.map((list) => list.length);
  const walk = (start: number) => {
    for (let node = start; ;) {
      const edge = at[node].find((candidate) => !candidate.used);
      if (!edge) return;
      edge.used = true;
      const next = edge.a === node ? edge.b : edge.a;
      slots[edge.id] = { first: node, second: next };
      degree[node]--;
      degree[next]--;
      node = next;
    }
  };
  const nodes = random.shuffled(Array.from({ length: chains }, (_, i) => i));
  // Trails between chains of odd count first; what remains is closed.
  for (const node of nodes) if (degree[node] % 2 === 1) walk(node);
  for (const node of nodes) while (degree[node] > 0) walk(node);
  return slots;
}

/** Orders the trials so that neighbours share as few chains as can be, never the same pair. */
function restful(slots: readonly PairSlot[], random: Random): PairSlot[] {
  let best: PairSlot[] = [...slots];
  let bestCost = Number.POSITIVE_INFINITY;
  for (let attempt = 0; attempt < ATTEMPTS && bestCost > 0; attempt++) {
    const left = random.shuffled(slots);
    const order = [left.pop() as PairSlot];
    while (left.length > 0) {
      const last = order[order.length - 1];
      let pick = 0;
      for (let i = 1; i < left.length; i++) {
        if (sharing(left[i], last) < sharing(left[pick], last)) pick = i;
      }
      order.push(...left.splice(pick, 1));
    }
    const cost = order.reduce((sum, slot, i) => sum + (i ? sharing(slot, order[i - 1]) : 0), 0);
    if (cost < bestCost) [best, bestCost] = [order, cost];
  }
  return best;
}

/** 0 no chain in common, 1 one, 100 the same pair. */
function sharing(x: PairSlot, y: PairSlot): number {
  const common =
    Number(x.first === y.first || x.first === y.second) +
    Number(x.second === y.first || x.second === y.second);
  return common === 2 ? 100 : common;
}
