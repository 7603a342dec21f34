import { heightsBeside, rowsAbove } from './line-layout';

const at = (...places: number[]) => places.map((place, slot) => ({ slot, place }));

describe('slips on a line', () => {
  it('stand in one row while there is room, and above each other where they share a spot', () => {
    expect([...rowsAbove(at(0, 20, 40), 11).values()]).toEqual([0, 0, 0]);
    expect([...rowsAbove(at(50, 50, 50, 70), 11).values()]).toEqual([0, 1, 2, 0]);
    expect([...rowsAbove(at(50, 56, 62), 11).values()]).toEqual([0, 1, 0]);
  });

  it('keep their own height beside a vertical line where they can, better above', () => {
    expect([...heightsBeside(at(100, 50, 0), 11).entries()]).toEqual([
      [0, 0],
      [1, 50],
      [2, 100],
    ]);
  });

  it.each([[[50, 50]], [[0, 0, 0]], [[100, 100, 100, 100]], [[3, 1, 2, 0, 5, 4, 50, 50, 50]]])(
    'never cover each other: %j',
    (places) => {
      const heights = [...heightsBeside(at(...places), 11).values()].sort((x, y) => x - y);
      const step = Math.min(11, 100 / (places.length - 1));
      for (let i = 1; i < heights.length; i++) {
        expect(heights[i]! - heights[i - 1]!).toBeGreaterThanOrEqual(step - 1e-9);
      }
      expect(heights[0]).toBeGreaterThanOrEqual(0);
      expect(heights[heights.length - 1]).toBeLessThanOrEqual(100);
    },
  );
});
