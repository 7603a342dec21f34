import type { CostForms } from '@/core/chain/cost-forms';
import { belongsTo } from './criteria';
import type { ChainFacts } from './facts';
import {
  cheapestOf,
  choicesOf,
  decisionFinding,
  regretOf,
  type Standing,
  type Valued,
} from './finding';
import { explainingErrorDb } from './level-error';
import { chainMark, type Mark, pointsOf } from './marks';
import { type Ground, judgeMustHave, MUST_HAVE_RULES, RULE_IDS } from './must-haves';
import { movedOrders, orderOf, practicalScore, soundOf, totalOf, type Weighted } from './score';

const mark = (by: string, value: Mark['value']): Mark => ({ by, value });
const money = (cents: number) => `${cents / 100} €`;

describe('marks', () => {
  it('say yes with five points and no with one', () => {
    expect(['1', '4', 'yes', 'no'].map((value) => pointsOf(value as Mark['value']))).toEqual([
      1, 4, 5, 1,
    ]);
  });

  it('of several people are a mean with its spread', () => {
    const own = chainMark([mark('A', '2'), mark('B', '5'), mark('C', '5')], []);
    expect(own).toMatchObject({ points: 4, spread: [2, 5], item: null });
  });

  it('of a chain go before those of its items, of which the lowest counts', () => {
    const items = [
      { name: 'Kern 40', marks: [mark('A', '4')] },
      { name: 'Clip E', marks: [mark('A', '1'), mark('B', '2')] },
      { name: 'Steg 8', marks: [] },
    ];
    expect(chainMark([], items)).toMatchObject({ points: 1.5, item: 'Clip E', spread: [1, 2] });
    expect(chainMark([mark('A', '3')], items)).toMatchObject({ points: 3, item: null });
    expect(chainMark([], [{ name: 'Steg 8', marks: [] }])).toBeNull();
  });
});

it('asks usual criteria of the gear that they belong to, and others of all', () => {
  expect(belongsTo('Mount', 'microphone')).toBe(true);
  expect(belongsTo('mount', 'preamp')).toBe(false);
  expect(belongsTo('build', 'preamp')).toBe(true);
  expect(belongsTo('smell of the case', 'preamp')).toBe(true);
});

const CRITERIA: Weighted[] = [
  { name: 'build', weight: 3 },
  { name: 'service', weight: 4 },
  { name: 'looks', weight: 1 },
];

describe('the practical score', () => {
  it('is the weighted mean of what was marked, with how much of the weight that is', () => {
    // (3·4 + 4·5) / 7 of 7/8 of the weight.
    const points = new Map([
      ['build', 4],
      ['service', 5],
    ]);
    const { score, coverage } = practicalScore(points, CRITERIA);
    expect(score).toBeCloseTo(32 / 7, 12);
    expect(coverage).toBeCloseTo(7 / 8, 12);
  });

  it('is none where nothing was marked, or all weights are zero', () => {
    expect(practicalScore(new Map(), CRITERIA)).toEqual({ score: null, coverage: 0 });
    const weightless = CRITERIA.map((one) => ({ ...one, weight: 0 }));
    expect(practicalScore(new Map([['build', 4]]), weightless)).toEqual({
      score: null,
      coverage: 0,
    });
  });
});

describe('the total that one may ask for', () => {
  const candidate = (name: string, sound: number | null, build: number, service: number) => ({
    name,
    sound,
    points: new Map([
      ['build', build],
      ['service', service],
    ]),
  });
  const two = [
    { name: 'build', weight: 2 },
    { name: 'service', weight: 2 },
  ];

  it('weighs places by what they count', () => {
    const alone = { value: 0.4, weight: 1 };
    expect(soundOf([alone, { value: 0.6, weight: 3 }])).toBeCloseTo(0.55, 12);
    expect(soundOf([alone, { value: null, weight: 5 }])).toBeCloseTo(0.4, 12);
    expect(soundOf([{ value: 0.4, weight: 0 }])).toBeNull();
  });

  it('is share·sound + (1 − share)·(score − 1)/4', () => {
    // Marks 5 and 3: score 4, that is 0.75 of the way from 1 to 5.
    expect(totalOf(candidate('A', 0.6, 5, 3), two, 0.3)).toBeCloseTo(0.3 * 0.6 + 0.7 * 0.75, 12);
    expect(totalOf(candidate('A', null, 5, 3), two, 0.3)).toBeNull();
    expect(totalOf(candidate('A', null, 5, 3), two, 0)).toBeCloseTo(0.75, 12);
  });

  it('orders by it, those that are level together, and turns with the share of sound', () => {
    const liked = candidate('liked', 0.8, 2, 2);
    const sturdy = candidate('sturdy', 0.5, 4, 4);
    // 0.3: 0.24 + 0.175 = 0.415 and 0.15 + 0.525 = 0.675; 0.7: 0.56 + 0.075 = 0.635 and 0.35 + 0.225 = 0.575.
    expect(orderOf([liked, sturdy], two, 0.3)).toEqual([['sturdy'], ['liked']]);
    expect(orderOf([liked, sturdy], two, 0.7)).toEqual([['liked'], ['sturdy']]);
    const twin = { ...liked, name: 'twin' };
    expect(orderOf([liked, twin], two, 0.5)).toEqual([['liked', 'twin']]);
  });

  it('says which weight, moved by one, makes another order', () => {
    const built = candidate('built', 0.5, 5, 1);
    const served = candidate('served', 0.5, 1, 4);
    // Weights 2:2 give 3 and 2.5; build at 1 gives 7/3 and 3; service at 3 gives 2.6 and 2.8.
    expect(orderOf([built, served], two, 0.5)).toEqual([['built'], ['served']]);
    expect(movedOrders([built, served], two, 0.5)).toEqual([
      { criterion: 'build', weight: 1, order: [['served'], ['built']] },
      { criterion: 'service', weight: 3, order: [['served'], ['built']] },
    ]);
  });
});

const FACTS: ChainFacts = {
  allCents: 200_000,
  toBuyCents: 150_000,
  forms: null,
  unpriced: [],
  noiseDba: 8.2,
  gainNeededDb: 41,
  gainMostDb: 60,
  shortDb: 0,
  hasPad: true,
  onPhantom: ['Kern 40'],
};

describe('must-haves', () => {
  const judge = (ground: Ground, facts: Partial<ChainFacts> = {}) =>
    judgeMustHave(ground, {
      facts: { ...FACTS, ...facts },
      markOf: (criterion) => (criterion === 'service' ? { points: 3.5, item: 'Tarn 1' } : null),
      byHand: null,
      money,
    });
  const rule = (id: (typeof RULE_IDS)[number], limit = 0): Ground => ({
    by: 'rule',
    rule: id,
    limit,
  });

  it.each([
    ['budget', 1500, {}, 'pass'],
    ['budget', 1499, {}, 'fail'],
    ['budget', 1600, { unpriced: ['Clip E'] }, 'unknown'],
    ['budget', 1400, { unpriced: ['Clip E'] }, 'fail'],
    ['budget', 1600, { toBuyCents: null }, 'unknown'],
    ['budget', 1600, { forms: { toBuyMostCents: 170_000 } as CostForms }, 'unknown'],
    ['budget', 1700, { forms: { toBuyMostCents: 170_000 } as CostForms }, 'pass'],
    ['budget', 1400, { forms: { toBuyMostCents: 170_000 } as CostForms }, 'fail'],
    ['noise', 8.2, {}, 'pass'],
    ['noise', 8, {}, 'fail'],
    ['noise', 8, { noiseDba: null }, 'unknown'],
    ['level', 0, {}, 'pass'],
    ['level', 0, { shortDb: 4 }, 'fail'],
    ['level', 0, { shortDb: null }, 'unknown'],
    ['pad', 0, {}, 'pass'],
    ['pad', 0, { hasPad: false }, 'unknown'],
    ['phantom', 0, {}, 'fail'],
    ['phantom', 0, { onPhantom: [] }, 'pass'],
    ['phantom', 0, { onPhantom: null }, 'unknown'],
  ] as const)('%s with limit %s and %j: %s', (id, limit, facts, verdict) => {
    expect(judge(rule(id, limit), facts).verdict).toBe(verdict);
  });

  it('say the ground they stand on', () => {
    expect(judge(rule('budget', 1400)).ground).toBe('1500 € to buy');
    expect(judge(rule('phantom')).ground).toBe('Kern 40 needs phantom power');
    expect(judge({ by: 'mark', criterion: 'service', least: 4 })).toEqual({
      verdict: 'fail',
      ground: 'service 3.5 of 5 (Tarn 1)',
    });
  });

  it('are unknown, never failed, where nobody marked or said anything', () => {
    expect(judge({ by: 'mark', criterion: 'looks', least: 1 }).verdict).toBe('unknown');
    expect(judge({ by: 'hand' }).verdict).toBe('unknown');
  });

  it('have each an id of their own', () => {
    expect(new Set(RULE_IDS).size).toBe(MUST_HAVE_RULES.length);
  });
});

describe('the finding', () => {
  const prices: Record<string, number | null> = { A: 1000, B: 700, C: 2000, D: null };
  const standing = (change: Partial<Standing>): Standing => ({
    chains: 3,
    left: ['A', 'B'],
    heard: { place: 'in the mix', claimed: true, leaders: ['A', 'B', 'C'] },
    priceOf: (chain) => prices[chain] ?? null,
    ...change,
  });
  const heard = (claimed: boolean, leaders: string[], place = '') => ({ claimed, leaders, place });

  it.each([
    [{}, 'Two chains are left. In the mix: A or B may be the best; B costs least of them.'],
    [{ heard: heard(false, []) }, 'Two chains are left. No preference was shown.'],
    [{ heard: heard(true, ['C']) }, 'Two chains are left. None of them may be the best.'],
    [{ heard: heard(true, []) }, 'Two chains are left. No single one leads.'],
    [{ heard: heard(true, ['B', 'C']) }, 'Two chains are left. B may be the best.'],
    [{ heard: null }, 'Two chains are left. Nothing was heard blind.'],
    [{ left: ['B'], heard: null }, 'One chain is left, B. Nothing was heard blind.'],
    [{ left: [] }, 'No chain is left: each fails a must-have.'],
    [{ chains: 0, left: [] }, 'There are no chains to decide between.'],
    // Without all prices nobody is called the cheapest.
    [
      { left: ['A', 'D'], heard: heard(true, ['A', 'D']) },
      'Two chains are left. A or D may be the best.',
    ],
  ])('%j: %s', (change, said) => {
    expect(decisionFinding(standing(change))).toBe(said);
  });

  it('calls nobody the cheapest of two that cost the same', () => {
    expect(cheapestOf(['A', 'B'], () => 5)).toBeNull();
    expect(cheapestOf(['A', 'B', 'C'], (chain) => prices[chain] ?? null)).toBe('B');
  });
});

describe('regret', () => {
  const chains: Valued[] = [
    { chain: 'dear', price: 210_000, strength: Math.log(3), expectedLoss: 0.01 },
    { chain: 'cheap', price: 130_000, strength: 0, expectedLoss: Math.log(1.5) },
  ];

  it('is the choices that go the other way: at 3 to 1, 25 of 100', () => {
    // 75 of 100 prefer the dear one, and 60 of 100 on average.
    const regret = regretOf('cheap', chains, 'pair');
    expect(regret).toMatchObject({ instead: 'dear', savedCents: 80_000, unit: 'choices' });
    expect(regret?.ifRight).toBeCloseTo(25, 10);
    expect(regret?.onAverage).toBeCloseTo(10, 10);
    expect(choicesOf(0)).toBe(0);
  });

  it('counts points of a line as they are', () => {
    const points = chains.map((one) => ({ ...one, strength: one.strength * 10 }));
    expect(regretOf('cheap', points, 'rating')?.ifRight).toBeCloseTo(10 * Math.log(3), 10);
  });

  it('is none where the cheaper one is the strongest, or has no price', () => {
    expect(regretOf('dear', chains, 'pair')).toBeNull();
    expect(regretOf('unpriced', chains, 'pair')).toBeNull();
  });
});

describe('what a level error would have to be', () => {
  it('is the lead over what 1 dB does to this panel', () => {
    // 3 to 1 for the louder (with half an answer on either side): log odds ln 3 for 1 dB; a lead of 2 ln 3 takes 2 dB.
    const control = { one: 14.5, other: 4.5, neither: 0, byDb: 1 };
    expect(explainingErrorDb(2 * Math.log(3), control)).toBeCloseTo(2, 10);
    expect(explainingErrorDb(Math.log(3), { ...control, byDb: 0.5 })).toBeCloseTo(0.5, 10);
  });

  it('is not known where the louder one was not chosen more often, or never asked', () => {
    expect(explainingErrorDb(1, { one: 5, other: 5, neither: 2, byDb: 1 })).toBeNull();
    expect(explainingErrorDb(1, { one: 0, other: 0, neither: 0, byDb: 1 })).toBeNull();
  });
});
