import { fewestHearers, readingPlanOf } from './question';

const prediction = { by: 'Mirela', favouriteChainId: null, toldApart: null, remark: '', at: null };
const question = {
  decides: '',
  contexts: [],
  nullHypothesis: '',
  smallestSharePct: null,
  prediction,
};

it.each([
  // All who hear it choose the same, the others guess: 0.3 + 0.7 / 2 = 0.65.
  [65, 0.3],
  [51, 0.02],
  [99, 0.98],
])('%i of 100 choices take %d of 100 hearers', (smallestSharePct, share) => {
  expect(fewestHearers({ ...question, smallestSharePct })).toBeCloseTo(share, 12);
});

it('asks nothing where nothing was written', () => {
  expect(readingPlanOf(undefined)).toEqual({});
  expect(readingPlanOf(question)).toEqual({});
});

it.each([
  ['surely', 'yes'],
  ['perhaps', 'perhaps'],
  ['hardly', 'no'],
] as const)('%s told apart is %s', (toldApart, distinguishable) => {
  const plan = readingPlanOf({
    ...question,
    smallestSharePct: 70,
    prediction: { ...prediction, favouriteChainId: 'a', toldApart },
  });
  expect(plan).toMatchObject({
    smallestPreference: 0.7,
    rankings: [{ by: 'Mirela', role: 'engineer', winner: 'a', distinguishable }],
  });
  expect(plan.maxDistinguishers).toBeCloseTo(0.4, 12);
});
