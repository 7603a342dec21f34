import fc from 'fast-check';
import { createHash } from 'node:crypto';
import { codeTrials } from './codes';
import { allPairs, pairOrders, type PairSlot } from './orders';
import { detectableShare, judgementsNeeded, signTestPower } from './power';
import { canonicalJson, sha256Hex } from './seal';
import { listenerMinutes } from './time-budget';
import { CODE_WORDS } from './words';

function pairKey({ first, second }: PairSlot): string {
  return [first, second].sort().join('-');
}

describe('orders', () => {
  const plans = fc.record({
    chains: fc.integer({ min: 2, max: 9 }),
    seats: fc.integer({ min: 2, max: 12 }).map((n) => n * 2),
    trialsPerSeat: fc.integer({ min: 1, max: 40 }),
    seed: fc.integer(),
  });

  it('puts each chain first as often as second over every two seats', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const orders = pairOrders(plan);
        for (let seat = 0; seat < orders.length; seat += 2) {
          const balance = new Array<number>(plan.chains).fill(0);
          for (const { first, second } of [...orders[seat], ...orders[seat + 1]]) {
            balance[first]++;
            balance[second]--;
          }
          expect(balance.every((b) => b === 0)).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('is balanced within one for a single seat, too', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const balance = new Array<number>(plan.chains).fill(0);
        for (const { first, second } of pairOrders(plan)[0]) {
          balance[first]++;
          balance[second]--;
        }
        expect(Math.max(...balance.map(Math.abs))).toBeLessThanOrEqual(1);
      }),
      { numRuns: 60 },
    );
  });

  it('covers every pair equally often within one per two seats', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const counts = new Map(allPairs(plan.chains).map(([a, b]) => [`${a}-${b}`, 0]));
        for (const slots of pairOrders(plan).filter((_, seat) => seat % 2 === 0)) {
          for (const slot of slots) counts.set(pairKey(slot), (counts.get(pairKey(slot)) ?? 0) + 1);
        }
        const values = [...counts.values()];
        expect(Math.max(...values) - Math.min(...values)).toBeLessThanOrEqual(1);
      }),
      { numRuns: 60 },
    );
  });

  it('never repeats a pair side by side, and lets chains rest where six leave room', () => {
    const orders = pairOrders({ chains: 6, seats: 24, trialsPerSeat: 15, seed: 4 });
    let shared = 0;
    for (const slots of orders) {
      for (let i = 1; i < slots.length; i++) {
        expect(pairKey(slots[i])).not.toBe(pairKey(slots[i - 1]));
        const before = [slots[i - 1].first, slots[i - 1].second];
        shared += Number(before.includes(slots[i].first) || before.includes(slots[i].second));
      }
    }
    expect(shared / (24 * 14)).toBeLessThan(0.05);
  });

  it('follows the seed', () => {
    const plan = { chains: 5, seats: 4, trialsPerSeat: 10, seed: 77 };
    expect(pairOrders(plan)).toEqual(pairOrders(plan));
    expect(pairOrders({ ...plan, seed: 78 })).not.toEqual(pairOrders(plan));
  });
});

describe('code words', () => {
  it('are many, different, and short', () => {
    expect(CODE_WORDS.length).toBeGreaterThanOrEqual(60);
    expect(new Set(CODE_WORDS).size).toBe(CODE_WORDS.length);
    for (const word of CODE_WORDS) expect(word).toMatch(/^[A-Z][a-z]{3,7}$/);
  });

  const orders = pairOrders({ chains: 6, seats: 6, trialsPerSeat: 15, seed: 1 });

  it('fresh: no word twice for a seat', () => {
    for (const slots of codeTrials(orders, 6, 'fresh', 9)) {
      const words = slots.flatMap((slot) => [slot.firstWord, slot.secondWord]);
      expect(new Set(words).size).toBe(words.length);
    }
  });

  it('fixed: one word per chain all through', () => {
    const byChain = new Map<number, Set<string>>();
    for (const slot of codeTrials(orders, 6, 'fixed', 9).flat()) {
      byChain.set(slot.first, (byChain.get(slot.first) ?? new Set()).add(slot.firstWord));
      byChain.set(slot.second, (byChain.get(slot.second) ?? new Set()).add(slot.secondWord));
    }
    expect([...byChain.values()].map((words) => words.size)).toEqual([1, 1, 1, 1, 1, 1]);
  });
});

describe('seal', () => {
  it('is canonical whatever the order of names', () => {
    expect(canonicalJson({ b: [1, 'ü', null], a: { d: true, c: 0.5 } })).toBe(
      '{"a":{"c":0.5,"d":true},"b":[1,"ü",null]}',
    );
  });

  it('is what sha256sum prints', async () => {
    const text = canonicalJson({ key: 'Ötter' });
    expect(await sha256Hex(text)).toBe(createHash('sha256').update(text).digest('hex'));
  });
});

describe('power', () => {
  // The figures of the handbook, from tables of the exact test.
  it.each([
    [0.7, 54],
    [0.75, 35],
    [0.65, 97],
  ])('a share of %d needs about %i decided judgements', (share, n) => {
    expect(Math.abs(judgementsNeeded(share) - n)).toBeLessThanOrEqual(5);
  });

  it('asks about half as much again for one of six pairs', () => {
    const ratio = judgementsNeeded(0.7, 6) / judgementsNeeded(0.7);
    expect(ratio).toBeGreaterThan(1.4);
    expect(ratio).toBeLessThan(1.75);
  });

  it('says that tiny panels can prove nothing', () => {
    expect(detectableShare(5)).toBeNull();
    expect(signTestPower(5, 1)).toBe(0);
    expect(detectableShare(100)).toBeCloseTo(0.65, 1);
  });

  it('counts honest minutes', () => {
    expect(listenerMinutes(15, 10)).toBeCloseTo(2.5 + (15 * 38) / 60, 9);
    expect(listenerMinutes(60, 10)).toBeGreaterThan(40);
  });
});
