import { Random } from '@/core/signal/random';
import { alone, claimsOf, claimText, holds, least } from './claims';
import { analyzePairs } from './pair/analyze';
import { findingsOf, readAll } from './sections';

it('judges the primary part by itself and the others together', () => {
  const claims = claimsOf([0.01, 0.04, 0.03, 0.2, null], 2);
  // Holm by hand over 0.01, 0.03, 0.2: 0.03, 0.06, 0.2.
  expect(claims.map(({ p }) => p)).toEqual([0.03, 0.04, 0.06, 0.2, null]);
  expect(claims.map(holds)).toEqual([true, true, false, false, false]);
  expect(claimText(claims[0]!)).toBe('p\u00a0=\u00a00.030, corrected for 3 parts');
  expect(claimText(claims[1]!)).toBe('p\u00a0=\u00a00.040');
});

it('claims nothing else where the primary part shows nothing', () => {
  expect(claimsOf([0.06, 0.0001, 0.002], 1).map(holds)).toEqual([false, false, false]);
});

it('leaves the others their 5 % where the primary part has no test that can speak', () => {
  expect(claimsOf([null, 0.02, 0.03], 1).map(holds)).toEqual([false, true, true]);
  expect(claimsOf([null, 0.03, 0.04], 1).map(holds)).toEqual([false, false, false]);
});

it('reads each part alone where no primary part was sealed', () => {
  expect(claimsOf([0.04, 0.04, 0.06], null)).toEqual([alone(0.04), alone(0.04), alone(0.06)]);
});

it('rests on the smallest of several corrected p, and on none where there is none', () => {
  expect(least([0.3, null, 0.04])).toBe(0.04);
  expect(least([null])).toBeNull();
  expect(least([])).toBeNull();
});

it('lets one level sitting in twenty claim something, whatever its parts; read alone it would be one in three', () => {
  const random = new Random(7);
  const sittings = 20_000;
  const count = { together: 0, apart: 0, unspoken: 0 };
  for (let run = 0; run < sittings; run++) {
    const ps = Array.from({ length: 8 }, () => random.uniform());
    if (claimsOf(ps, 1 + random.below(8)).some(holds)) count.together++;
    if (claimsOf(ps, null).some(holds)) count.apart++;
    if (claimsOf([null, ...ps], 1).some(holds)) count.unspoken++;
  }
  const within = 3 * Math.sqrt((0.05 * 0.95) / sittings);
  expect(Math.abs(count.together / sittings - 0.05)).toBeLessThan(within);
  expect(count.apart / sittings).toBeCloseTo(1 - 0.95 ** 8, 1);
  // Holm's first step: 1 - (1 - 0.05/8)^8.
  expect(Math.abs(count.unspoken / sittings - (1 - (1 - 0.05 / 8) ** 8))).toBeLessThan(within);
});

describe('what a part says', () => {
  const observations = Array.from({ length: 12 }, (_, g) => ({
    kind: 'pair' as const,
    role: 'judged' as const,
    listener: `L${g}`,
    chain: 'A',
    chainB: 'B',
    first: g % 2 === 0 ? ('a' as const) : ('b' as const),
    response: 'a' as const,
    source: 'contralto',
    passage: 'verse',
    context: 'solo',
    sitting: '',
    part: '1',
    trial: `${g}`,
    replicate: 1,
    louder: '' as const,
  }));
  const { results } = readAll(observations, { seed: 1, made: null });
  const p = analyzePairs(observations, 1).analysis.panelTest?.p ?? 1;
  const panel = { listeners: 12, answers: 12, source: 'contralto', passage: 'verse', said: null };
  const told = (claim: ReturnType<typeof alone>) =>
    findingsOf('pair', results, { ...panel, claim });

  it('is its claim where that holds', () => {
    expect(p).toBeLessThan(0.01);
    expect(told(alone(p))?.headline).toBe('A is preferred.');
    expect(told(alone(p))?.remarks.join(' ')).not.toContain('No preference shown here');
  });

  it('is no claim once corrected away, and names no pair as preferred', () => {
    const said = told({ p: 0.07, among: 9, open: true });
    expect(said?.headline).toMatch(/^No preference/);
    expect(said?.detail).toContain('corrected for 9 parts');
    expect(said?.remarks.join(' ')).toContain('No preference shown here: A against B (12 : 0).');
  });

  it('is no claim behind a primary part that shows nothing', () => {
    const said = told({ p, among: 3, open: false });
    expect(said?.headline).toBe('Nothing is claimed here, since the primary part showed nothing.');
    expect([said?.headline, said?.detail, ...(said?.remarks ?? [])].join(' ')).not.toMatch(
      /chains differ|is preferred|preferred to|told apart/,
    );
  });
});
