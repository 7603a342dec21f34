import { analyzePairs } from './analyze';
import { findingsOf, pText } from './findings';
import type { PairJudgement } from './judgements';

/** Each listener judges each pair once; `votes` says for how many of them the first of a pair wins. */
function panel(listeners: number, votes: Record<string, number>): PairJudgement[] {
  return Object.entries(votes).flatMap(([pair, forA]) => {
    const [chain, chainB] = pair.split('/');
    return Array.from({ length: listeners }, (_, g) => ({
      listener: `L${g}`,
      chain,
      chainB,
      first: g % 2 ? ('a' as const) : ('b' as const),
      response: g < forA ? ('a' as const) : g < listeners ? ('b' as const) : ('tie' as const),
    }));
  });
}

function told(judgements: PairJudgement[], listeners: number) {
  const { analysis } = analyzePairs(judgements, 1);
  return findingsOf(analysis, {
    listeners,
    judgements: judgements.length,
    source: 'contralto',
    passage: 'quiet verse',
  });
}

it('names a winner only when it beat each other chain', () => {
  const findings = told(panel(20, { 'A/B': 18, 'A/C': 19, 'B/C': 11 }), 20);
  expect(findings.headline).toBe('A is preferred.');
  expect(findings.leaders).toEqual(['A']);
  expect(findings.unsure.map(({ a, b }) => a + b)).toEqual(['BC']);
  expect(findings.detail).toContain('60 answers of 20 listeners');
});

it('names a leading group when the best two are level', () => {
  const findings = told(panel(20, { 'A/B': 10, 'A/C': 19, 'B/C': 18 }), 20);
  expect(findings.leaders.sort()).toEqual(['A', 'B']);
  expect(findings.headline).toMatch(/lead; between them no preference was shown/);
});

it('says of which chains the best is shown to be better when that is not all', () => {
  const findings = told(
    panel(20, { 'A/B': 12, 'A/C': 12, 'A/D': 19, 'B/C': 10, 'B/D': 12, 'C/D': 12 }),
    20,
  );
  expect(findings.headline).toBe(
    'A was chosen most; it is preferred to D, and cannot be told from the rest.',
  );
});

it('claims nothing that chance explains, and says what could have been found', () => {
  const findings = told(panel(12, { 'A/B': 6, 'A/C': 7, 'B/C': 6 }), 12);
  expect(findings.headline).toContain('No preference was shown');
  expect(findings.detail).toMatch(/4 times in 5|unanimous/);
  expect(findings.leaders).toEqual([]);
});

it('says that ties are ties', () => {
  const ties = panel(5, { 'A/B': 0, 'A/C': 0 }).map((row) => ({
    ...row,
    response: 'tie' as const,
  }));
  expect(told(ties, 5).headline).toContain('Every answer was a tie');
});

it('always says what is not shown', () => {
  expect(told(panel(20, { 'A/B': 18 }), 20).limits[0]).toContain('contralto, quiet verse');
});

it('warns when two listeners are all there is', () => {
  const findings = told(panel(2, { 'A/B': 2, 'A/C': 2, 'B/C': 2 }), 2);
  expect(findings.limits.join(' ')).toContain('Too few listeners');
});

it('writes p as is usual', () => {
  expect([0.0004, 0.0123, 0.31].map(pText)).toEqual([
    'p\u00a0<\u00a00.001',
    'p\u00a0=\u00a00.012',
    'p\u00a0=\u00a00.31',
  ]);
});
