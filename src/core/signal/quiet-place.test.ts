import { quietPlace } from './quiet-place';

const peaks = [9, 9, 9, 2, 9, 9, 9, 9, 1, 9, 9];

it('finds the quietest place within reach, the nearest of equals', () => {
  expect(quietPlace(peaks, 10, 0.5, 0.25)).toBeCloseTo(0.35, 9);
  expect(quietPlace(peaks, 10, 0.5, 0.5)).toBeCloseTo(0.85, 9);
  expect(quietPlace([3, 0, 3, 3, 0, 3, 3], 10, 0.2, 1)).toBeCloseTo(0.15, 9);
});

it('stays where it is when nothing is drawn', () => {
  expect(quietPlace([], 10, 0.5, 0.5)).toBe(0.5);
});
