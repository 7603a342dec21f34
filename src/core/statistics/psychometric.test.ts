import { dPrimeOf, type ForcedTask, GUESS, rightShare } from './psychometric';

const TASKS = Object.keys(GUESS) as ForcedTask[];

describe('psychometric functions', () => {
  it.each(TASKS)('%s begins at guessing, grows, and is inverted', (task) => {
    expect(rightShare(task, 0)).toBeCloseTo(GUESS[task], 7);
    let before = rightShare(task, 0);
    for (const d of [0.3, 0.7, 1, 1.5, 2, 3, 5]) {
      const share = rightShare(task, d);
      expect(share).toBeGreaterThan(before);
      expect(dPrimeOf(task, share)).toBeCloseTo(d, 5);
      before = share;
    }
    expect(dPrimeOf(task, GUESS[task])).toBe(0);
    expect(dPrimeOf(task, 1)).toBeNull();
  });

  // Ennis (1993), table of proportions: d' = 1 gives 0.760 in two intervals, 0.582 in duo-trio, 0.418 in triangles.
  it.each([
    ['two-interval', 0.76],
    ['duo-trio', 0.583],
    ['triangle', 0.418],
  ] as const)('%s at d′ = 1 is the published share', (task, share) => {
    expect(rightShare(task, 1)).toBeCloseTo(share, 2);
  });
});
