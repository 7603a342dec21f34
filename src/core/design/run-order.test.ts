import fc from 'fast-check';
import { runOrder, type RunPlan } from './run-order';

const plan: RunPlan = {
  chains: ['reference', 'a', 'b', 'c', 'd'],
  reference: 0,
  takes: 2,
  order: 'rotated',
  referenceEvery: 2,
  days: 1,
  seed: 7,
};
const chainsOf = (change: Partial<RunPlan> = {}) =>
  runOrder({ ...plan, ...change }).map(({ chain }) => chain);

it('the reference opens, closes and returns at intervals; rounds are rotated', () => {
  expect(chainsOf()).toEqual([0, 1, 2, 0, 3, 4, 0, 2, 3, 0, 4, 1, 0]);
  expect(chainsOf({ referenceEvery: 0 })).toEqual([0, 1, 2, 3, 4, 2, 3, 4, 1, 0]);
});

it('each chain comes as often as it has takes, numbered', () => {
  const stops = runOrder(plan);
  for (const chain of [1, 2, 3, 4]) {
    const own = stops.filter((stop) => stop.chain === chain);
    expect(own.map(({ takeNumber }) => takeNumber)).toEqual([1, 2]);
  }
});

it('a second day begins with the reference again', () => {
  const days = runOrder({ ...plan, days: 2 });
  expect(days.filter(({ day }) => day === 2)[0]).toMatchObject({ chain: 0 });
  expect(days.at(-1)).toMatchObject({ day: 2, chain: 0 });
});

it('drawn orders follow the seed, differ from round to round, and hold every chain', () => {
  const drawn = chainsOf({ order: 'randomised', takes: 6 });
  expect(drawn).toEqual(chainsOf({ order: 'randomised', takes: 6 }));
  expect(drawn).not.toEqual(chainsOf({ order: 'randomised', takes: 6, seed: 8 }));
  for (const chain of [1, 2, 3, 4]) expect(drawn.filter((c) => c === chain).length).toBe(6);
});

it('works without a reference', () => {
  expect(chainsOf({ reference: null, takes: 1 })).toEqual([0, 1, 2, 3, 4]);
});

it('whatever is planned: every chain has its takes, the reference opens and closes each day', () => {
  const plans = fc.record({
    chains: fc.array(fc.string(), { minLength: 2, maxLength: 8 }),
    takes: fc.integer({ min: 1, max: 6 }),
    order: fc.constantFrom('rotated' as const, 'randomised' as const),
    referenceEvery: fc.integer({ min: 0, max: 5 }),
    days: fc.integer({ min: 1, max: 3 }),
    seed: fc.integer({ min: 0, max: 1000 }),
  });
  fc.assert(
    fc.property(plans, (drawn) => {
      const stops = runOrder({ ...drawn, reference: 0 });
      for (let chain = 1; chain < drawn.chains.length; chain++) {
        const own = stops.filter((stop) => stop.chain === chain);
        expect(own.map(({ takeNumber }) => takeNumber)).toEqual(
          Array.from({ length: drawn.takes }, (_, i) => i + 1),
        );
      }
      for (const day of new Set(stops.map((stop) => stop.day))) {
        const today = stops.filter((stop) => stop.day === day);
        expect(today[0]!.chain).toBe(0);
        expect(today.at(-1)?.chain).toBe(0);
        for (let i = 1; i < today.length; i++) {
          expect(today[i]!.chain === 0 && today[i - 1]!.chain === 0).toBe(false);
        }
      }
    }),
  );
});
