import { alone, least } from './claims';
import { Random } from '@/core/signal/random';
import { againstFindings, analyzeAgainst } from './against';
import type { Of } from './observation';

const placed = (listener: string, chain: string, value: number): Of<'rating'> => ({
  listener,
  chain,
  value,
  against: 'R',
  scale: '',
  kind: 'rating',
  role: chain === 'R' ? 'self' : 'judged',
  source: '',
  passage: '',
  context: '',
  sitting: '',
  part: '1',
  trial: chain,
  replicate: 1,
});

it('sets each candidate against the listener’s own place for the hidden reference', () => {
  const row = analyzeAgainst(
    [55, 40, 62, 48, 51, 60].flatMap((hidden, g) => [
      placed(`L${g}`, 'R', hidden),
      placed(`L${g}`, 'A', hidden + 10 + (g % 2 ? 2 : -2)),
    ]),
  )[0]!;
  expect(row).toMatchObject({ chain: 'A', listeners: 6, listenersWithHidden: 6, difference: 10 });
  // Differences 8 and 12, three of each: sd √4.8, t = 10 / √0.8 on 5 degrees of freedom.
  expect(row.ci95?.[1]).toBeCloseTo(10 + 2.570582 * Math.sqrt(0.8), 5);
  expect(row.p).toBeCloseTo(0.0001, 4);
  expect(againstFindings([row], alone(row.pHolm))?.headline).toContain(
    'Placed above the reference: A',
  );
});

it('takes the middle of the scale where the reference was not hidden, and says nothing below six', () => {
  const five = Array.from({ length: 5 }, (_, g) => placed(`L${g}`, 'A', 90 + g));
  const rows = analyzeAgainst(five);
  expect(rows).toMatchObject([{ difference: 42, listenersWithHidden: 0, p: null }]);
  expect(againstFindings(rows, alone(null))?.headline).toMatch(
    /^5 listeners: too few for a verdict/,
  );
  expect(againstFindings([], alone(null))).toBeNull();
});

it('finds nothing more often than it should where candidates and reference are alike', () => {
  // The hidden reference stands 12 points under all candidates in no truth: all are drawn alike. 400 panels of 12.
  const random = new Random(31);
  let claims = 0;
  for (let run = 0; run < 400; run++) {
    const rows = Array.from({ length: 12 }, (_, g) => {
      const own = 50 + 10 * random.normal();
      return ['R', 'A', 'B', 'C'].map((chain) => placed(`L${g}`, chain, own + 8 * random.normal()));
    }).flat();
    const read = analyzeAgainst(rows);
    const claim = alone(least(read.map(({ pHolm }) => pHolm)));
    if (/^Placed/.test(againstFindings(read, claim)?.headline ?? '')) claims++;
  }
  // Three standard errors of 5 % over 400.
  expect(claims / 400).toBeLessThan(0.05 + 3 * Math.sqrt((0.05 * 0.95) / 400));
});
