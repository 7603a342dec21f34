import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Random } from '@/core/signal/random';
import { changedShare, forecast, fromUrn, MORE_LISTENERS, scatterAmong } from './forecast';
import { parseResultsFile } from './results-file';

const read = (name: string) => {
  const file = path.resolve(__dirname, '../../../conformance/reading', `${name}.csv`);
  return parseResultsFile(new Uint8Array(readFileSync(file)), true).observations;
};

/** Between what limits resampled figures lie, by an independent reading. */
interface Band {
  chain: string;
  bestShareBand: [number, number];
  expectedLossBand: [number, number];
}

/** Fewer than the product draws, for the time of a test. */
const DRAWS = 60;
const NO_MARGINS = { pair: null, rating: null };

it('of a panel that agrees changes nothing', () => {
  const told: number[] = [];
  const pairs = read('09-best-and-level').filter(({ kind }) => kind === 'pair');
  const made = forecast(pairs, NO_MARGINS, 1, (share) => told.push(share), DRAWS);
  expect(made?.now).toEqual(['gorli']);
  expect(made?.more.map(({ listeners }) => listeners)).toEqual([...MORE_LISTENERS]);
  for (const step of made?.more ?? []) {
    expect(changedShare(made!.now, step, (open) => open.join())).toBeLessThan(0.02);
  }
  expect(told[told.length - 1]).toBe(1);
});

it('of two that are not told apart yet narrows with more listeners, and the same seed says the same', () => {
  const rows = read('02-cells-pair');
  const made = forecast(rows, NO_MARGINS, 1, undefined, DRAWS);
  const alone = made!.more.map(({ open, draws }) => {
    const few = open.filter(({ chains }) => chains.length < made!.now.length);
    return few.reduce((sum, { times }) => sum + times, 0) / draws;
  });
  expect(made!.now).toHaveLength(2);
  expect(alone[0]).toBeLessThan(alone[2]!);
  expect(forecast(rows, NO_MARGINS, 1, undefined, DRAWS)).toEqual(made);
});

// One of nine is of another mind. How many such come among 24 more is beta-binomial(24; 1, 8), which is none with
// Π (8 + i)/(9 + i) = 8/32 (Johnson, Kemp & Kotz 2005, 6.2.2), and 24/9 on average.
it('draws further listeners from an urn that grows with them', () => {
  const random = new Random(5);
  const draws = Array.from({ length: 4000 }, () => fromUrn(9, 24, random).slice(9));
  const others = draws.map((more) => more.filter((who) => who === 8).length);
  const none = others.filter((count) => count === 0).length / draws.length;
  expect(Math.abs(none - 8 / 32)).toBeLessThan(4 * Math.sqrt((0.25 * 0.75) / 4000));
  const mean = others.reduce((sum, count) => sum + count, 0) / draws.length;
  // Variance 24·(1/9)(8/9)·(9+24)/(9+1).
  expect(Math.abs(mean - 24 / 9)).toBeLessThan(4 * Math.sqrt((24 * (8 / 81) * 3.3) / 4000));
  expect(fromUrn(3, 0, random)).toEqual([0, 1, 2]);
});

it('is none where the best cannot be said', () => {
  expect(forecast(read('13-single-listener'), NO_MARGINS, 1)).toBeNull();
  expect(forecast([], NO_MARGINS, 1)).toBeNull();
});

it('counts the draws in which another choice is made, and says nothing of none', () => {
  const step = {
    listeners: 6,
    draws: 10,
    open: [
      { chains: ['a', 'b'], times: 6 },
      { chains: ['b'], times: 3 },
      { chains: ['a'], times: 1 },
    ],
  };
  // The first of those that are open is taken: a now, b in three of ten.
  expect(changedShare(['a', 'b'], step, ([first]) => first ?? '')).toBeCloseTo(0.3, 12);
  expect(changedShare(['a'], { listeners: 6, draws: 0, open: [] }, () => '')).toBeNull();
});

it('draws panels anew like the sealed reading does: within the bands of the value section', () => {
  const { value } = (
    JSON.parse(
      readFileSync(
        path.resolve(__dirname, '../../../conformance/reading/12-value-pair.expected.json'),
        'utf8',
      ),
    ) as {
      expect: { value: { chains: Band[] } };
    }
  ).expect;
  const made = forecast(read('12-value-pair'), NO_MARGINS, 1, undefined, 1);
  const found = scatterAmong(
    made!,
    value.chains.map(({ chain }) => chain),
  );
  for (const { chain, bestShareBand, expectedLossBand } of value.chains) {
    const own = found.find((one) => one.chain === chain)!;
    for (const [said, [from, to]] of [
      [own.bestShare, bestShareBand],
      [own.expectedLoss, expectedLossBand],
    ] as const) {
      expect(said).toBeGreaterThanOrEqual(from);
      expect(said).toBeLessThanOrEqual(to);
    }
  }
});

it('looks only among the chains that are left', () => {
  const drawn = {
    chains: ['a', 'b', 'c'],
    strengths: [1, 0.5, 0],
    redrawn: [
      [1, 1, 1, 1],
      [0, 0.5, 2, 0],
      [0, 0.5, 0, 1],
    ],
  };
  // Among all: a leads twice alone and once with c, b once. Losses of b: 1, 0.5, 0, 1.
  expect(scatterAmong(drawn, ['a', 'b', 'c'])).toEqual([
    { chain: 'a', strength: 1, bestShare: 2.5 / 4, expectedLoss: 0.25 },
    { chain: 'b', strength: 0.5, bestShare: 0.25, expectedLoss: 2.5 / 4 },
    { chain: 'c', strength: 0, bestShare: 0.5 / 4, expectedLoss: 3.5 / 4 },
  ]);
  // Without a: b and c share the first two, then b and c lead once each.
  expect(scatterAmong(drawn, ['b', 'c'])).toEqual([
    { chain: 'b', strength: 0.5, bestShare: 0.5, expectedLoss: 0.25 },
    { chain: 'c', strength: 0, bestShare: 0.5, expectedLoss: 0.5 },
  ]);
});
