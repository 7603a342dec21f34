import { Random } from '@/core/signal/random';
import { indexJudgements } from '@/core/statistics/pair/judgements';
import { panelTest } from '@/core/statistics/pair/tests';
import { type JudgedPair, nextPair } from './adaptive';
import { pairOrders, type PairSlot } from './orders';

const won = (first: number, second: number): JudgedPair => ({ first, second, choice: 'first' });
const set = ({ first, second }: PairSlot) => [first, second].sort((a, b) => a - b).join(' ');

it('takes any pair by lot where nothing is known', () => {
  const seen = new Set(
    Array.from({ length: 60 }, (_, seed) =>
      set(nextPair(3, [], null, Random.derived(seed, 'lot'))),
    ),
  );
  expect([...seen].sort()).toEqual(['0 1', '0 2', '1 2']);
});

it('turns to the chain that was never heard', () => {
  // 0 and 1 were compared; any pair with 2 has the larger variance.
  const found = nextPair(3, [won(0, 1), won(0, 1)], null, new Random(1));
  expect(set(found)).toContain('2');
});

it('has the gain that a calculation by hand gives', () => {
  // After 0 beat 1 once: merits ±m with m = 1 − share(2m), so m = 0.3609 and p(1−p) = 0.2203.
  // Precision of (0, 1): 1 + w on the diagonal, −w beside it; of 2: 1. So the variance of 0 against 1 is
  // 2 / (1 + 2w) = 1.388, of 0 against 2 it is (1 + w) / (1 + 2w) + 1 = 1.847, with share(0.3609) = 0.5893.
  // Gains: ½ ln(1 + 0.2203 · 1.388) = 0.1334 and ½ ln(1 + 0.2420 · 1.847) = 0.1848: both pairs with 2 alike.
  const seen = new Set(
    Array.from({ length: 40 }, (_, seed) =>
      set(nextPair(3, [won(0, 1)], null, Random.derived(seed, 'lot'))),
    ),
  );
  expect([...seen].sort()).toEqual(['0 2', '1 2']);
});

it('never asks the pending pair again next, and evens out who stands first', () => {
  const random = new Random(3);
  const judged: JudgedPair[] = [];
  let pending = nextPair(4, judged, null, random);
  const leads = [0, 0, 0, 0];
  for (let n = 0; n < 60; n++) {
    const next = nextPair(4, judged, pending, random);
    expect(set(next)).not.toBe(set(pending));
    judged.push({ ...pending, choice: n % 3 === 0 ? 'tie' : 'second' });
    leads[pending.first]!++;
    leads[pending.second]!--;
    pending = next;
  }
  for (const lead of leads) expect(Math.abs(lead)).toBeLessThanOrEqual(3);
});

it('is the same for the same answers and seed', () => {
  const judged = [won(0, 2), won(3, 1)];
  const draw = () => nextPair(5, judged, { first: 4, second: 0 }, new Random(77));
  expect(draw()).toEqual(draw());
});

it('needs something to choose from', () => {
  expect(() => nextPair(2, [], null, new Random(1))).toThrow(RangeError);
});

/** One listener with known merits answers; @returns the answers */
function walked(truth: readonly number[], trials: number, adaptive: boolean, seed: number) {
  const random = new Random(seed);
  const judged: JudgedPair[] = [];
  const fixed = pairOrders({ chains: truth.length, seats: 1, trialsPerSeat: trials, random })[0]!;
  let [pending, coming] = fixed as [PairSlot, PairSlot];
  for (let n = 0; n < trials; n++) {
    const p = 1 / (1 + Math.exp(truth[pending.second]! - truth[pending.first]!));
    judged.push({ ...pending, choice: random.uniform() < p ? 'first' : 'second' });
    const after = adaptive ? nextPair(truth.length, judged, coming, random) : fixed[n + 2]!;
    [pending, coming] = [coming, after];
  }
  return judged;
}

it('has no leaning of its own: without any preference every chain ends even, over many listeners', () => {
  const listeners = 400;
  const totals = [0, 0, 0, 0];
  let squares = 0;
  for (let seed = 1; seed <= listeners; seed++) {
    const points = [0, 0, 0, 0];
    for (const { first, second, choice } of walked([0, 0, 0, 0], 12, true, seed)) {
      points[first]! += choice === 'first' ? 1 : -1;
      points[second]! -= choice === 'first' ? 1 : -1;
    }
    points.forEach((net, chain) => {
      totals[chain]! += net;
      squares += net ** 2;
    });
  }
  // Net points are a martingale: mean 0 within four standard errors.
  const error = Math.sqrt(squares / (4 * listeners) / listeners);
  for (const total of totals) expect(Math.abs(total / listeners)).toBeLessThan(4 * error);
});

it('spends fewer trials on what is settled than a fixed order does', () => {
  const settled = (adaptive: boolean) => {
    let count = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const judged = walked([0, 0.2, 3, -3], 24, adaptive, seed);
      count += judged.filter((pair) => set(pair) === '2 3').length;
    }
    return count;
  };
  expect(settled(true)).toBeLessThan(0.8 * settled(false));
});

it('leaves the headline test honest: without preferences it alarms in about 5 of 100 panels', () => {
  const panels = 120;
  let alarms = 0;
  for (let panel = 0; panel < panels; panel++) {
    const rows = Array.from({ length: 12 }, (_, listener) =>
      walked([0, 0, 0, 0], 9, true, 1000 * panel + listener + 1).map(
        ({ first, second, choice }) => ({
          listener: `${listener}`,
          chain: `${first}`,
          chainB: `${second}`,
          first: 'a' as const,
          response: choice === 'first' ? ('a' as const) : ('b' as const),
        }),
      ),
    ).flat();
    const test = panelTest(indexJudgements(rows));
    if (test !== null && test.p < 0.05) alarms++;
  }
  // Binomial(120, 0.05): more than 14 come about once in a thousand times.
  expect(alarms).toBeLessThanOrEqual(14);
});
