import { medianOf, percentile } from './percentile';

it.each([
  // Worked with definition 7: at = share * (n - 1).
  [[1, 2, 3, 4], 0.25, 1.75],
  [[1, 2, 3, 4], 1, 4],
  [[1, 2, 3, 4], 0, 1],
  [[7], 0.975, 7],
  [[0, 10], 0.3, 3],
])('of %j at %d is %d', (sorted, share, value) => {
  expect(percentile(sorted, share)).toBeCloseTo(value, 12);
});

it('is in the middle, whatever the order', () => {
  expect(medianOf([9, 1, 5])).toBe(5);
  expect(medianOf([4, 1, 3, 2])).toBe(2.5);
});
