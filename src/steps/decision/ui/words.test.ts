import type { DecisionView } from '@/steps/decision/service';
import { forecastText, regretText, stepText, sumText } from './words';

const facts = { unpriced: [] } as unknown as Parameters<typeof sumText>[1];

it('says “at least” where some of it has no price, and nothing where there is none', () => {
  expect(sumText(132_000, facts)).toBe('1,320 €');
  expect(sumText(132_000, { ...facts, unpriced: ['Clip E'] })).toBe('≥ 1,320 €');
  expect(sumText(null, facts)).toBe('–');
});

it('tells minutes and chances, and never a round nought', () => {
  const step = { listeners: 6, minutes: 222 };
  expect(forecastText([{ ...step, changed: 0.094 }])).toEqual([
    '222 more minutes (6 listeners) would change this choice in 9 of 100 cases.',
  ]);
  expect(forecastText([{ ...step, changed: 0 }])[0]).toContain('in fewer than 1 of 100 cases');
  expect(forecastText([{ ...step, changed: null }])[0]).toContain('could not be worked out');
  expect(forecastText('impossible')[0]).toContain('Cannot be said');
  expect(forecastText('working')).toEqual([]);
  expect(forecastText(null)).toEqual([]);
});

const regret = {
  chain: 'cheap',
  instead: 'dear',
  savedCents: 80_000,
  ifRight: 25,
  onAverage: 0.3,
  unit: 'choices' as const,
};
const said = (change: Partial<Omit<typeof regret, 'unit'>> & { unit?: 'points' }) =>
  regretText({ regret: { ...regret, ...change } } as unknown as DecisionView);

it('says what is lost in the unit of the task', () => {
  expect(said({})).toBe(
    'and the panel was right, 25 in 100 choices go the other way against dear. If it was wrong, nothing is lost; over its own scatter under 1 in 100 choices on average. It saves 800 €.',
  );
  expect(said({ unit: 'points', ifRight: 12.34 })).toContain(
    '12.3 points of the line are lost against dear',
  );
  expect(regretText({ regret: null } as unknown as DecisionView)).toBeNull();
});

it('says what a step up in price buys, and when that is not shown', () => {
  const step = {
    from: 'A',
    to: 'B',
    moreCents: 42_500,
    gain: Math.log(3),
    task: 'pair' as const,
    open: false,
  };
  // Odds of 3 to 1.
  expect(stepText(step)).toBe('leads from A to B: preferred in 75 of 100.');
  expect(stepText({ ...step, open: true })).toContain('not shown: the cheaper one may be the best');
  expect(stepText({ ...step, task: 'rating', gain: 4.04 })).toContain(
    '4.0 points of the line higher',
  );
});
