import { Random } from '@/core/signal/random';
import { balanceOf } from './balance';
import { incompleteBlocks } from './blocks';
import { pairOrders } from './orders';

it('counts a written-out order', () => {
  const seats = [
    [
      [0, 1],
      [0, 2],
      [2, 0],
    ],
    [[1, 2]],
  ];
  // Chain 0 stands in three trials, twice first and once last; 1 once first, once last; 2 once first, twice last.
  expect(balanceOf(seats, 3)).toEqual({
    shown: [2, 3],
    met: [1, 2],
    firstAgainstLast: 1,
    sameRunning: 1,
    // Information on contrasts of the trials 01, 02, 20, 12: [[3, −1, −2], [−1, 2, −1], [−2, −1, 3]] / 2, whose
    // eigenvalues are 0, 3/2 and 5/2; their harmonic mean 15/8 over 8/3 shown on average.
    efficiency: expect.closeTo(15 / 8 / (8 / 3), 12) as number,
  });
});

it('sees a twin in one trial once', () => {
  expect(balanceOf([[[1, 1, 0]]], 2)).toEqual({
    shown: [1, 1],
    met: [1, 1],
    firstAgainstLast: 1,
    sameRunning: 0,
    efficiency: expect.closeTo(1, 12) as number,
  });
});

it('finds drawn orders of pairs as even as they promise', () => {
  const orders = pairOrders({ chains: 5, seats: 12, trialsPerSeat: 10, random: new Random(4) });
  const placed = orders.map((trials) => trials.map(({ first, second }) => [first, second]));
  const { met, firstAgainstLast, sameRunning } = balanceOf(placed, 5);
  expect(met).toEqual([12, 12]);
  expect(firstAgainstLast).toBe(0);
  expect(sameRunning).toBe(0);
});

it.each([
  // Balanced incomplete blocks of k of v: v (k - 1) / (k (v - 1)).
  [
    'pairs of four',
    4,
    [
      [0, 1],
      [0, 2],
      [0, 3],
      [1, 2],
      [1, 3],
      [2, 3],
    ],
    4 / (2 * 3),
  ],
  [
    'three of seven',
    7,
    [
      [0, 1, 2],
      [0, 3, 4],
      [0, 5, 6],
      [1, 3, 5],
      [1, 4, 6],
      [2, 3, 6],
      [2, 4, 5],
    ],
    (7 * 2) / (3 * 6),
  ],
  [
    'all of five',
    5,
    [
      [0, 1, 2, 3, 4],
      [4, 3, 2, 1, 0],
    ],
    1,
  ],
])('%s are as efficient as the textbook says', (_, chains, blocks, efficiency) => {
  expect(balanceOf([blocks], chains).efficiency).toBeCloseTo(efficiency, 12);
});

it('knows no efficiency of chains that never meet', () => {
  expect(
    balanceOf(
      [
        [
          [0, 1],
          [2, 3],
        ],
      ],
      4,
    ).efficiency,
  ).toBeNull();
});

it('finds lines of eight of ten nearly as good as lines of all', () => {
  const random = new Random(2);
  const lines = incompleteBlocks(10, 8, 24, random);
  // No design of blocks of eight of ten is better than 10 * 7 / (8 * 9).
  const { efficiency } = balanceOf([lines], 10);
  expect(efficiency).toBeGreaterThan(0.96);
  expect(efficiency).toBeLessThanOrEqual((10 * 7) / (8 * 9) + 1e-12);
});
