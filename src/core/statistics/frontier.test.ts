import { EQUAL, onFrontier } from './frontier';

const on = (...listed: [price: number, strength: number][]) =>
  onFrontier(listed.map(([price, strength]) => ({ price, strength })));

it('holds what nothing beats for the same money or less', () => {
  // The third is dearer than the second and weaker; the last is the dearest and the strongest.
  expect(on([100, 0], [200, 1], [300, 0.5], [400, 2])).toEqual([true, true, false, true]);
});

it('lets the cheaper of two that are liked alike stay, and both where they cost the same', () => {
  expect(on([100, 1], [200, 1])).toEqual([true, false]);
  expect(on([100, 1], [100, 1])).toEqual([true, true]);
  expect(on([100, 1], [100, 1.5])).toEqual([false, true]);
});

it('takes strengths for the same within what rounding leaves', () => {
  expect(on([100, 1], [200, 1 + EQUAL / 2])).toEqual([true, false]);
  expect(on([100, 1], [200, 1 + 2 * EQUAL])).toEqual([true, true]);
});

it('holds a single one, and none of nothing', () => {
  expect(on([0, -3])).toEqual([true]);
  expect(on()).toEqual([]);
});
