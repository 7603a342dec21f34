import { type Said, tally } from './rounds';

it('counts clips, not places', () => {
  const said: Said[] = ['first', 'first', 'second', 'neither', 'second'];
  expect(tally(said, [false, true, true, false, false])).toMatchObject({
    // First plain, second swapped, first swapped, -, second plain.
    chosen: [2, 2],
    neither: 1,
  });
});

it.each([
  // Exact two-sided binomial of one half: 2/256, 18/256, 74/256, 186/256, 1.
  [8, 0, 2 / 256],
  [7, 1, 18 / 256],
  [2, 6, 74 / 256],
  [3, 5, 186 / 256],
  [4, 4, 1],
  [0, 0, 1],
  [1, 0, 1],
])('chance of %i to %i', (a, b, chance) => {
  const said: Said[] = [
    ...Array.from({ length: a }, () => 'first' as const),
    ...Array.from({ length: b }, () => 'second' as const),
  ];
  const { chosen, chance: found } = tally(
    said,
    said.map(() => false),
  );
  expect(chosen).toEqual([a, b]);
  expect(found).toBeCloseTo(chance, 12);
});
