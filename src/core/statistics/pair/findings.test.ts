import { alone } from '../claims';
import fc from 'fast-check';
import { bestOfPairs } from '../best';
import { analyzeConsistency } from '../consistency';
import type { Of } from '../observation';
import { pText } from '../words';
import { analyzePairs } from './analyze';
import { pairFindings } from './findings';

type Judgement = Pick<Of<'pair'>, 'listener' | 'chain' | 'chainB' | 'first' | 'response'>;

/** Each listener judges each pair once; `votes` says for how many of them the first of a pair wins. */
function panel(listeners: number, votes: Record<string, number>): Judgement[] {
  return Object.entries(votes).flatMap(([pair, forA]) => {
    const [chain, chainB] = pair.split('/') as [string, string];
    return Array.from({ length: listeners }, (_, g) => ({
      listener: `L${g}`,
      chain,
      chainB,
      first: g % 2 ? ('a' as const) : ('b' as const),
      response: g < forA ? ('a' as const) : g < listeners ? ('b' as const) : ('tie' as const),
    }));
  });
}

const WHERE = { source: 'contralto', passage: 'quiet verse' };

function told(judgements: Judgement[], listeners: number) {
  const rows = judgements.map((one, i): Of<'pair'> => ({
    ...one,
    ...WHERE,
    kind: 'pair',
    role: 'judged',
    louder: '',
    context: 'solo',
    sitting: '',
    part: '1',
    trial: `${i}`,
    replicate: 1,
  }));
  const { analysis } = analyzePairs(rows, 1);
  const beside = { best: bestOfPairs(rows, null), consistency: analyzeConsistency(rows) };
  const claim = alone(analysis.panelTest?.p ?? null);
  const about = { ...WHERE, listeners, answers: rows.length, said: null, claim };
  return { analysis, ...pairFindings(analysis, beside, about) };
}

it('names a winner only when it beat each other chain', () => {
  const findings = told(panel(20, { 'A/B': 18, 'A/C': 19, 'B/C': 11 }), 20);
  expect(findings.headline).toBe('A is preferred.');
  expect(findings.remarks.at(-1)).toBe('No preference shown here: B against C (11 : 9).');
  expect(findings.detail).toContain('60 answers of 20 listeners');
});

it('tells shares of the choices that were made, and level answers beside them', () => {
  // Of 40 listeners 10 find the two level; of the others 24 take A. Odds of 4 between the two are odds of 2 against
  // their average.
  const rows = panel(40, { 'A/B': 24 }).map((row, i) =>
    i >= 30 ? { ...row, response: 'tie' as const } : row,
  );
  const { detail } = told(rows, 40);
  expect(detail).toMatch(
    /^When a choice was made, about 67 % .* went to A against an average chain/,
  );
  expect(detail).toContain('; 25 % were level.');
});

it('names those not shown worse than the best when nobody stands alone', () => {
  const findings = told(panel(20, { 'A/B': 10, 'A/C': 19, 'B/C': 18 }), 20);
  expect(findings.headline).toBe('The chains differ; the best is one of A and B.');
});

it('names no winner from fewer than six listeners', () => {
  // Twice the same five, all for A, but for one answer of each pair.
  const five = Array.from({ length: 4 }, (_, round) =>
    panel(5, { 'A/B': round ? 5 : 4, 'A/C': round ? 5 : 4, 'B/C': 3 }),
  ).flat();
  const findings = told(five, 5);
  expect(findings.analysis.panelTest?.p).toBeLessThan(0.05);
  expect(findings.headline).not.toContain('is preferred');
});

it('does not say “by chance” where listeners agree with themselves but not with each other', () => {
  // Half of twelve put A over B over C over D, half the other way round; nobody has a circle.
  const pairs = ['A/B', 'A/C', 'A/D', 'B/C', 'B/D', 'C/D'];
  const findings = told(panel(12, Object.fromEntries(pairs.map((pair) => [pair, 6]))), 12);
  expect(findings.headline).toBe('No preference of the panel was shown; tastes may differ.');
  expect(findings.remarks.join(' ')).toContain('agreed with themselves more than chance');
});

it('claims nothing that chance explains, and says what stays possible', () => {
  const findings = told(panel(12, { 'A/B': 6, 'A/C': 7, 'B/C': 6 }), 12);
  expect(findings.headline).toContain('No preference was shown');
  const largest = Math.max(...findings.analysis.overall.map(({ ci95 }) => ci95![1]));
  const share = Math.round(100 / (1 + Math.exp(-largest)));
  expect(findings.detail).toContain(`up to ${share} % of the choices for A`);
});

it('says that ties are ties', () => {
  const ties = panel(5, { 'A/B': 0, 'A/C': 0 }).map((row) => ({
    ...row,
    response: 'tie' as const,
  }));
  expect(told(ties, 5).headline).toBe('Every answer was a tie: no preference was shown.');
});

it('always says what is not shown', () => {
  expect(told(panel(20, { 'A/B': 18 }), 20).limits[0]).toContain('contralto, quiet verse');
});

it('gives no verdict about a panel of one or two, and says exactly what those did', () => {
  const two = told(panel(2, { 'A/B': 2, 'A/C': 2, 'B/C': 2 }), 2);
  expect(two.headline).toBe('Two listeners: too few for a verdict about a panel.');
  // One listener, four times A: the exact two-sided value is 2 / 2⁴.
  const one = told(Array.from({ length: 4 }, () => panel(1, { 'A/B': 1 })).flat(), 1);
  expect(one.headline).toBe('One listener: too few for a verdict about a panel.');
  expect(one.detail).toContain('nothing is shown');
  expect(one.detail).toContain('4 : 0 (exact sign test on their answers, p\u00a0=\u00a00.13)');
  // Ten times: 2 / 2¹⁰.
  const sure = told(Array.from({ length: 10 }, () => panel(1, { 'A/B': 1 })).flat(), 1);
  expect(sure.detail).toContain('A was preferred to B, 10 : 0');
  expect(sure.detail).toContain('p\u00a0=\u00a00.002');
  const tie = told(
    panel(1, { 'A/B': 1 }).map((row) => ({ ...row, response: 'tie' as const })),
    1,
  );
  expect(tie.headline).toBe('One listener: too few for a verdict about a panel.');
});

it('does not take a common liking for the first of one order for a difference', () => {
  // Everybody hears A before B, A before C and B before C, and two of three choose the first.
  const rows = ['A/B', 'A/C', 'B/C'].flatMap((pair, i) =>
    Array.from({ length: 24 }, (_, g) => {
      const [chain, chainB] = pair.split('/') as [string, string];
      const response = (g + i) % 3 === 0 ? ('b' as const) : ('a' as const);
      return { listener: `L${g}`, chain, chainB, first: 'a' as const, response };
    }),
  );
  expect(told(rows, 24).headline).toContain('No preference was shown');
});

it('says “preferred” or “differ” only where a test with the listener as the unit, or an exact one, is under 5 %', () => {
  const chains = ['A', 'B', 'C', 'D'];
  const answer = fc.record({
    listener: fc.integer({ min: 0, max: 9 }).map((g) => `L${g}`),
    pair: fc.shuffledSubarray(chains, { minLength: 2, maxLength: 2 }),
    first: fc.constantFrom('a' as const, 'b' as const),
    // Mostly the chain that comes earlier in the alphabet, so that there is something to claim.
    response: fc.constantFrom(...new Array<'earlier'>(8).fill('earlier'), 'later', 'tie'),
  });
  let claims = 0;
  fc.assert(
    fc.property(fc.array(answer, { minLength: 1, maxLength: 90, size: 'max' }), (answers) => {
      const rows = answers.map(({ pair, response, ...rest }) => {
        const [chain, chainB] = pair as [string, string];
        const chosen =
          (response === 'earlier') === chain < chainB ? ('a' as const) : ('b' as const);
        return { ...rest, chain, chainB, response: response === 'tie' ? ('tie' as const) : chosen };
      });
      const listeners = new Set(rows.map(({ listener }) => listener)).size;
      const { analysis, headline, detail } = told(rows, listeners);
      if (/The chains differ|is preferred|best/.test(headline)) {
        claims++;
        expect(analysis.panelTest?.p).toBeLessThan(0.05);
      }
      if (/was preferred/.test(detail)) {
        expect(Math.min(...analysis.pairs.map(({ pHolm }) => pHolm))).toBeLessThan(0.05);
      }
    }),
    { numRuns: 15, seed: 20 },
  );
  expect(claims).toBeGreaterThan(3);
});

it('writes p as is usual', () => {
  expect([0.0004, 0.0123, 0.31].map(pText)).toEqual([
    'p\u00a0<\u00a00.001',
    'p\u00a0=\u00a00.012',
    'p\u00a0=\u00a00.31',
  ]);
});
