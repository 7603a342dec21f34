import fc from 'fast-check';
import { createHash } from 'node:crypto';
import { Random } from '@/core/signal/random';
import { incompleteBlocks } from './blocks';
import { codeTrials } from './codes';
import { allPairs, pairOrders, type PairSlot } from './orders';
import { judgementsNeeded, signTestPower, trialsNeeded } from './power';
import { canonicalJson, type Json, sha256Hex } from './seal';
import { listenerMinutes } from './time-budget';
import { williams } from './williams';
import { CODE_WORDS } from './words';

function pairKey({ first, second }: PairSlot): string {
  return [first, second].sort().join('-');
}

describe('orders', () => {
  const plans = fc.record({
    chains: fc.integer({ min: 2, max: 9 }),
    seats: fc.integer({ min: 2, max: 12 }).map((n) => n * 2),
    trialsPerSeat: fc.integer({ min: 1, max: 40 }),
    random: fc.integer().map((seed) => new Random(seed)),
  });

  it('puts each chain first as often as second over every two seats', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const orders = pairOrders(plan);
        for (let seat = 0; seat < orders.length; seat += 2) {
          const balance = new Array<number>(plan.chains).fill(0);
          for (const { first, second } of [...orders[seat]!, ...orders[seat + 1]!]) {
            balance[first]!++;
            balance[second]!--;
          }
          expect(balance.every((b) => b === 0)).toBe(true);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('is balanced within one for a single seat, too', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const balance = new Array<number>(plan.chains).fill(0);
        for (const { first, second } of pairOrders(plan)[0]!) {
          balance[first]!++;
          balance[second]!--;
        }
        expect(Math.max(...balance.map(Math.abs))).toBeLessThanOrEqual(1);
      }),
      { numRuns: 25 },
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
      { numRuns: 25 },
    );
  });

  it('never repeats a pair side by side, and lets chains rest where six leave room', () => {
    const orders = pairOrders({ chains: 6, seats: 24, trialsPerSeat: 15, random: new Random(4) });
    let shared = 0;
    for (const slots of orders) {
      for (let i = 1; i < slots.length; i++) {
        expect(pairKey(slots[i]!)).not.toBe(pairKey(slots[i - 1]!));
        const before = [slots[i - 1]!.first, slots[i - 1]!.second];
        shared += Number(before.includes(slots[i]!.first) || before.includes(slots[i]!.second));
      }
    }
    expect(shared / (24 * 14)).toBeLessThan(0.05);
  });

  it('holds every pair in each whole round of a listener, so that half a sitting is a whole one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 7 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer(),
        (chains, times, seed) => {
          const pairs = allPairs(chains).length;
          const plan = { chains, seats: 4, trialsPerSeat: times * pairs, random: new Random(seed) };
          for (const slots of pairOrders(plan)) {
            for (let round = 0; round < times; round++) {
              const own = slots.slice(round * pairs, (round + 1) * pairs).map(pairKey);
              expect(new Set(own).size).toBe(pairs);
            }
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('does not tell the next pair: with four chains the other two seldom follow', () => {
    const orders = pairOrders({ chains: 4, seats: 400, trialsPerSeat: 12, random: new Random(8) });
    let others = 0;
    for (const slots of orders) {
      for (let i = 1; i < slots.length; i++) {
        const two = new Set(
          [slots[i]!, slots[i - 1]!].flatMap(({ first, second }) => [first, second]),
        );
        others += Number(two.size === 4);
      }
    }
    // Drawn within rounds they follow in one of five; always choosing what rests makes it three of five.
    expect(others / (400 * 11)).toBeGreaterThan(0.15);
    expect(others / (400 * 11)).toBeLessThan(0.25);
  });

  it('follows the seed', () => {
    const orders = (seed: number) =>
      pairOrders({ chains: 5, seats: 4, trialsPerSeat: 10, random: new Random(seed) });
    expect(orders(77)).toEqual(orders(77));
    expect(orders(78)).not.toEqual(orders(77));
  });
});

describe('code words', () => {
  it('are many, different, and short', () => {
    expect(CODE_WORDS.length).toBeGreaterThanOrEqual(60);
    expect(new Set(CODE_WORDS).size).toBe(CODE_WORDS.length);
    for (const word of CODE_WORDS) expect(word).toMatch(/^[A-Z][a-z]{3,7}$/);
  });

  const orders = pairOrders({
    chains: 6,
    seats: 6,
    trialsPerSeat: 15,
    random: new Random(1),
  }).map((slots) =>
    slots.map(({ first, second }) => ({
      slots: [first, second].map((chain) => ({ chain, gainDb: 0 })),
      freshWords: false,
    })),
  );

  it('fresh: no word twice for a seat', () => {
    for (const trials of codeTrials(orders, 6, 'fresh', new Random(9))) {
      const words = trials.flat();
      expect(new Set(words).size).toBe(words.length);
    }
  });

  it('fixed: one word per chain all through', () => {
    const byChain = new Map<number, Set<string>>();
    codeTrials(orders, 6, 'fixed', new Random(9)).forEach((trials, seat) =>
      trials.forEach((words, trial) =>
        words.forEach((word, slot) => {
          const { chain } = orders[seat]![trial]!.slots[slot]!;
          byChain.set(chain, (byChain.get(chain) ?? new Set()).add(word));
        }),
      ),
    );
    expect([...byChain.values()].map((words) => words.size)).toEqual([1, 1, 1, 1, 1, 1]);
  });

  it('fixed: words that stand for no chain where they would tell, and no clip twice with one', () => {
    const chain = (index: number) => ({ chain: index, gainDb: 0 });
    const pair = { slots: [chain(0), chain(1)], freshWords: false };
    const twins = { slots: [chain(1), chain(1), chain(0)], freshWords: true };
    const [fixed, fresh] = codeTrials([[pair, twins]], 2, 'fixed', new Random(3))[0]!;
    expect(new Set(fresh).size).toBe(3);
    for (const word of fresh!) expect(fixed).not.toContain(word);
    const twice = { ...twins, freshWords: false };
    expect(() => codeTrials([[twice]], 2, 'fixed', new Random(3))).toThrow(RangeError);
  });
});

describe('Williams designs', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8, 9])(
    'of %i are balanced in place and in what follows what',
    (n) => {
      const rows = williams(n);
      expect(rows.length).toBe(n % 2 === 0 ? n : 2 * n);
      const following = new Map<string, number>();
      for (let place = 0; place < n; place++) {
        const counts = new Map<number, number>();
        for (const row of rows) counts.set(row[place]!, (counts.get(row[place]!) ?? 0) + 1);
        expect([...counts.values()]).toEqual(Array.from({ length: n }, () => rows.length / n));
      }
      for (const row of rows) {
        for (let i = 1; i < n; i++) {
          const pair = `${row[i - 1]} ${row[i]}`;
          following.set(pair, (following.get(pair) ?? 0) + 1);
        }
      }
      expect(following.size).toBe(n * (n - 1));
      if (n > 1) expect(new Set(following.values()).size).toBe(1);
    },
  );
});

describe('incomplete blocks', () => {
  it('use all equally often, and let every two meet about equally often', () => {
    const blocks = incompleteBlocks(12, 8, 36, new Random(5));
    const used = Array.from({ length: 12 }, (_, i) => blocks.filter((b) => b.includes(i)).length);
    expect(new Set(used)).toEqual(new Set([24]));
    // 36 blocks of 28 pairs over 66: 15.3 on average.
    for (const pair of allPairs(12)) {
      const met = blocks.filter((block) => pair.every((i) => block.includes(i))).length;
      expect(met).toBeGreaterThanOrEqual(13);
      expect(met).toBeLessThanOrEqual(18);
    }
    for (const block of blocks) expect(new Set(block).size).toBe(8);
    expect(() => incompleteBlocks(3, 4, 1, new Random(1))).toThrow(RangeError);
  });
});

describe('seal', () => {
  it('is read back as it was written, with names in the order of UTF-16 whatever the order given', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 4 }), (value) => {
        // Half a character is no text that can be sealed.
        fc.pre(!/\\ud[89a-f]/i.test(JSON.stringify(value)));
        const text = canonicalJson(value as Json);
        // Negative zero is zero in JSON.
        expect(JSON.parse(text)).toEqual(JSON.parse(JSON.stringify(value)));
        JSON.parse(text, (_, entry: unknown) => {
          if (entry && typeof entry === 'object' && !Array.isArray(entry)) {
            const names = Object.keys(entry).filter((name) => !/^(0|[1-9]\d*)$/.test(name));
            expect(names).toEqual([...names].sort());
          }
          return entry;
        });
        const backwards = JSON.parse(JSON.stringify(value), (_, entry: unknown) =>
          entry && typeof entry === 'object' && !Array.isArray(entry)
            ? Object.fromEntries(Object.entries(entry).reverse())
            : entry,
        ) as Json;
        expect(canonicalJson(backwards)).toBe(text);
      }),
    );
  });

  it('is canonical as RFC 8785 shows it (3.2.2)', () => {
    const given =
      '{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],' +
      '"string":"\\u20ac$\\u000F\\u000aA\'\\u0042\\u0022\\u005c\\\\\\"\\/","literals":[null,true,false]}';
    expect(canonicalJson(JSON.parse(given) as Json)).toBe(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],' +
        '"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}',
    );
  });

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
    expect(signTestPower(5, 1)).toBe(0);
    // A hundred find 65 : 35 in about 4 of 5 cases.
    expect(signTestPower(100, 0.65)).toBeGreaterThan(0.8);
    expect(signTestPower(100, 0.63)).toBeLessThan(0.8);
  });

  it('counts honest minutes', () => {
    // Settling 150 s, reading a part 20 s, and a minute of pause after each quarter of an hour.
    expect(listenerMinutes([15 * 38])).toBeCloseTo((150 + 20 + 15 * 38) / 60, 9);
    expect(listenerMinutes([600, 600])).toBeCloseTo((150 + 1240 + 60) / 60, 9);
  });

  it('counts trials with a right answer as the handbook does', () => {
    // Two-interval choice needs some 26 trials where duo-trio and triangle need about 200 (d' = 1).
    expect(trialsNeeded('two-interval', 1)).toBeGreaterThan(18);
    expect(trialsNeeded('two-interval', 1)).toBeLessThan(34);
    for (const task of ['duo-trio', 'triangle'] as const) {
      expect(trialsNeeded(task, 1)).toBeGreaterThan(170);
      expect(trialsNeeded(task, 1)).toBeLessThan(260);
    }
  });
});
