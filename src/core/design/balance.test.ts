import { Random } from '@/core/signal/random';
import { balanceOf } from './balance';
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
  });
});

it('sees a twin in one trial once', () => {
  expect(balanceOf([[[1, 1, 0]]], 2)).toEqual({
    shown: [1, 1],
    met: [1, 1],
    firstAgainstLast: 1,
    sameRunning: 0,
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
