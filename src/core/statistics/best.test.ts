import { bestSet, dunnett } from './best';

it('gives Dunnett’s one-sided values', () => {
  // The contract's own figure; then Dunnett 1955, table 1a (p treatments, ν degrees of freedom, 95 %).
  expect(dunnett(3, 15)).toBeCloseTo(2.238941, 5);
  expect(dunnett(2, 5)).toBeCloseTo(2.44, 2);
  expect(dunnett(4, 10)).toBeCloseTo(2.47, 2);
  expect(dunnett(6, 1e6)).toBeCloseTo(2.29, 2);
  expect(dunnett(1, 12)).toBeCloseTo(1.782, 3);
});

const of = (strengths: number[], margin: number | null = null) =>
  bestSet({ chains: ['A', 'B', 'C'], strengths, df: 30, errorOf: () => 1 }, margin);

it('names a winner only when all others are shown worse', () => {
  const alone = of([5, 0, -1]);
  expect(alone).toMatchObject({ winner: 'A', notShownWorse: ['A'] });
  expect(alone.chains[0]!.lower).toBe(0);
  const two = of([5, 4, -1]);
  expect(two).toMatchObject({ winner: null, notShownWorse: ['A', 'B'] });
  // Own strength less the best other: 5 − 4 either way, and the critical value.
  expect(two.chains[0]!.upper).toBeCloseTo(1 + dunnett(2, 30), 9);
  expect(two.chains[0]!.lower).toBeCloseTo(1 - dunnett(2, 30), 9);
  expect(two.chains[2]!.upper).toBe(0);
});

it('calls level what lies within the margin of the best for sure', () => {
  expect(of([1, 0.9, -9], 3).shownLevel).toEqual(['A', 'B']);
  expect(of([1, 0.9, -9], 1).shownLevel).toEqual([]);
  expect(of([1, 0.9, -9]).shownLevel).toBeNull();
});
