import fc from 'fast-check';
import { grouped } from './grouped';

it('gives each its own rows, in their order, without saying whose they are', () => {
  const rows = [
    { of: 'a', n: 1 },
    { of: 'b', n: 2 },
    { of: 'a', n: 3 },
  ];
  expect([...grouped(rows)]).toEqual([
    ['a', [{ n: 1 }, { n: 3 }]],
    ['b', [{ n: 2 }]],
  ]);
  expect(grouped([]).size).toBe(0);
});

it('loses and doubles nothing', () => {
  const row = fc.record({ of: fc.constantFrom('a', 'b', '__proto__', ''), n: fc.nat() });
  fc.assert(
    fc.property(fc.array(row), (rows) => {
      const groups = grouped(rows);
      for (const of of new Set(rows.map((one) => one.of))) {
        expect(groups.get(of)?.map(({ n }) => n)).toEqual(
          rows.filter((one) => one.of === of).map(({ n }) => n),
        );
      }
      expect([...groups.values()].flat()).toHaveLength(rows.length);
    }),
  );
});
