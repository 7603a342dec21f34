import { once } from './once';

it('works out the same rows once, and other rows anew', () => {
  let times = 0;
  const sum = once((rows: readonly number[]) => {
    times++;
    return { sum: rows.reduce((x, y) => x + y, 0) };
  });
  const rows = [1, 2, 3];
  expect([sum(rows), sum(rows)]).toEqual([{ sum: 6 }, { sum: 6 }]);
  expect(times).toBe(1);
  // What is alike but is not the same is none of it.
  expect(sum([1, 2, 4])).toEqual({ sum: 7 });
  expect(times).toBe(2);
});
