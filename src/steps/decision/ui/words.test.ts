import type { DecisionView } from '@/steps/decision/service';
import {
  equalCostText,
  forecastText,
  gainText,
  linkText,
  regretText,
  rentedText,
  stepText,
  sumText,
  tonedText,
  usedText,
} from './words';

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

it('says which gain is needed of what there is', () => {
  const gain = { gainNeededDb: 41.3, gainMostDb: 60, shortDb: 0 };
  expect(gainText(gain)).toBe('41 of 60 dB');
  expect(gainText({ ...gain, gainMostDb: null })).toBe('41 dB');
  expect(gainText({ gainNeededDb: 66, gainMostDb: 60, shortDb: 6 })).toBe('66 dB, 6 dB short');
  expect(gainText({ ...gain, gainNeededDb: null })).toBe('–');
});

describe('forms of a price', () => {
  const forms = (change: object) =>
    ({ forms: { used: null, rentDay: null, ...change } }) as unknown as Parameters<
      typeof usedText
    >[0];

  it('say nothing where nobody knows them', () => {
    expect([usedText(forms({})), rentedText(forms({}))]).toEqual(['–', '–']);
    expect([usedText({ forms: null }), rentedText({ forms: null })]).toEqual(['–', '–']);
  });

  it('name what is not to be had in them', () => {
    const used = { fromCents: 60_000, toCents: 75_000, atList: ['Clip E'] };
    expect(usedText(forms({ used }))).toBe('600 to 750 €, Clip E new');
    expect(usedText(forms({ used: { fromCents: 5_000, toCents: 5_000, atList: [] } }))).toBe(
      '50 €',
    );
    const rentDay = { cents: 1_250, without: ['Clip E', 'Stand'] };
    expect(rentedText(forms({ rentDay }))).toBe('12.50 € a day, Clip E and Stand not for rent');
  });
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

it('says what one more hundred brought at a link, in choices of a hundred, and when that is not shown', () => {
  const link = {
    link: 'microphone' as const,
    pairs: 2,
    apartCents: [20_000, 50_000] as [number, number],
    perHundred: { value: Math.log(3), from: Math.log(1.5), to: Math.log(9) },
    task: 'pair' as const,
  };
  // Odds of 3 to 1, 1.5 to 1 and 9 to 1 are 75, 60 and 90 of 100: 25, 10 and 40 more than even.
  expect(linkText(link)).toBe(
    'brought 25.0 in 100 choices (95 %: 10.0 to 40.0), over 2 pairs of chains that differ there alone, 200 € to 500 € apart.',
  );
  const unsure = { value: 4, from: -1.25, to: 9 };
  expect(
    linkText({ ...link, pairs: 1, apartCents: [5_000, 5_000], perHundred: unsure, task: 'rating' }),
  ).toBe(
    'brought 4.0 points of the line (95 %: −1.3 to 9.0), over one pair of chains that differs there alone, 50 € apart. That it buys anything is not shown.',
  );
});

it('says which of two that cost the same was preferred, as far as it is shown', () => {
  const pair = { a: 'A', b: 'B', differenceCents: 3_500, preferred: null };
  expect(equalCostText({ ...pair, verdict: 'undecided' })).toBe(
    'A and B, 35 € apart: which of the two is better is not shown.',
  );
  expect(equalCostText({ ...pair, verdict: 'preferred', preferred: 'B' })).toContain(
    'B is preferred.',
  );
  expect(equalCostText({ ...pair, differenceCents: 0, verdict: 'level' })).toBe(
    'A and B, at one price: level, within what matters.',
  );
  expect(equalCostText({ ...pair, verdict: 'preferred but slight', preferred: 'A' })).toContain(
    'A is preferred, but by less than matters',
  );
});

it('says how much of a lead is left without its tone, whichever of the two leads', () => {
  const sure = { value: 2, from: 1, to: 3 };
  const toned = {
    plain: 'A',
    target: 'B',
    lead: sure,
    left: { value: 0.25, from: -0.1, to: 0.6 },
  };
  expect(tonedText(toned)).toBe(
    'B leads A; once A had the tone of B, 25 % (95 %: −10 to 60) of that lead was left. The rest is what EQ can do here.',
  );
  expect(tonedText({ ...toned, lead: { value: -2, from: -3, to: -1 } })).toContain(
    'A leads B; once A had',
  );
  expect(tonedText({ ...toned, left: { value: 1.2, from: 1, to: 1.4 } })).not.toContain('The rest');
  expect(tonedText({ ...toned, left: null })).toContain('nothing can be told of it');
});
