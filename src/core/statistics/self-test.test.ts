import type { Observation } from './observation';
import { fewestRight, ownFindings, readOwn } from './self-test';

const place = {
  listener: 'me',
  source: 'cello',
  passage: '',
  context: 'raw',
  sitting: '',
  part: '1',
  role: 'judged' as const,
  replicate: 1,
};
let trial = 0;
const next = () => ({ ...place, trial: `${trial++}` });

const heard = (right: number, of: number, a = 'alder', b = 'birch'): Observation[] =>
  Array.from({ length: of }, (_, i) => ({
    ...next(),
    kind: 'forced',
    task: 'triangle',
    chain: i % 2 === 0 ? a : b,
    chainB: i % 2 === 0 ? b : a,
    correct: i < right,
  }));

const chose = (...responses: ('a' | 'b' | 'tie')[]): Observation[] =>
  responses.map((response, i) => ({
    ...next(),
    kind: 'pair',
    // Presented either way round; what counts is the chain, not the place.
    chain: i % 2 === 0 ? 'alder' : 'birch',
    chainB: i % 2 === 0 ? 'birch' : 'alder',
    first: 'a',
    response: i % 2 === 0 || response === 'tie' ? response : response === 'a' ? 'b' : 'a',
    louder: '',
  }));

const names = (id: string) => ({ alder: 'Alder', birch: 'Birch', cedar: 'Cedar' })[id] ?? id;
const told = (observations: Observation[]) => ownFindings(readOwn(observations), names);

// ISO 4120:2021, table A.1, and ISO 10399:2017, table A.1, at 5 %.
it.each([
  [10, 1 / 3, 7],
  [12, 1 / 3, 8],
  [18, 1 / 3, 10],
  [25, 1 / 3, 13],
  [10, 1 / 2, 9],
  [12, 1 / 2, 10],
  [20, 1 / 2, 15],
])('of %i trials with a guess of %f, %i right show it', (n, guess, right) => {
  expect(fewestRight(n, guess)).toBe(right);
});

it('says that no number of few trials would show anything', () => {
  expect(fewestRight(2, 1 / 3)).toBeNull();
});

it('is exact over the trials of one person: 8 of 12 is shown, 7 is not', () => {
  // Sum of C(12, k) 2^(12-k) / 3^12 for k from 8: 0.0188; from 7: 0.0664.
  expect(told(heard(8, 12))).toEqual([
    'You told Alder and Birch apart: 8 of 12 right, where guessing gives 4 (p\u00a0=\u00a00.019).',
  ]);
  expect(told(heard(7, 12))).toEqual([
    'It was not shown that you can tell Alder and Birch apart: 7 of 12 right, where guessing gives 4 (p\u00a0=\u00a00.066); 8 would have shown it.',
  ]);
});

it('adds the tests of several days up', () => {
  // P(X ≥ 14) of 24 at one third is 0.01034 (sum of C(24, k) 2^(24-k) / 3^24).
  const { apart } = readOwn([...heard(7, 12), ...heard(7, 12)]);
  expect(apart[0]).toMatchObject({ correct: 14, n: 24 });
  expect(apart[0]!.pHolm).toBeCloseTo(0.01034, 5);
});

it('corrects for several pairs, by Holm', () => {
  const [overall, first, second] = told([...heard(8, 12), ...heard(7, 12, 'alder', 'cedar')]);
  // Sum of C(24, k) 2^(24-k) / 3^24 for k from 15: 0.00323.
  expect(overall).toBe(
    'You told some of them apart: 15 of 24 right over 2 pairs, where guessing gives 8 (p\u00a0=\u00a00.003).',
  );
  expect(first).toContain('p\u00a0=\u00a00.038, corrected for 2 pairs');
  expect(second).toContain('not shown that you can tell Alder and Cedar apart');
  expect(second).not.toContain('would have shown');
});

it('names, of many pairs, those that were told apart, and says what all came to', () => {
  const six = ['alder', 'birch', 'cedar', 'dogwood'].flatMap((a, i, all) =>
    all.slice(i + 1).map((b) => [a, b] as const),
  );
  const answers = six.flatMap(([a, b], i) => heard(i === 0 ? 4 : 1, 4, a, b));
  // 9 of 24 guessed: P = 0.4055 (sum of C(24, k) 2^(24-k) / 3^24); 4 of 4: 1 / 81, times 6.
  expect(told([...answers, ...chose('a', 'a')])).toEqual([
    'It was not shown that you can tell any of them apart: 9 of 24 right over 6 pairs, where guessing gives 8 (p\u00a0=\u00a00.41).',
    'None of the 6 pairs was shown by itself; what you chose between such two says little.',
  ]);
  const sure = six.flatMap(([a, b], i) => heard(i === 0 ? 8 : 3, 8, a, b));
  // 8 of 8: 1 / 6561, times 6 = 0.0009.
  const findings = told([...sure, ...chose('a', 'a')]);
  expect(findings).toHaveLength(4);
  expect(findings[1]).toMatch(/^You told Alder and Birch apart: 8 of 8 right/);
  expect(findings[2]).toMatch(/^None of the other 5 pairs was shown/);
  expect(findings[3]).toMatch(/^Of your 2 choices 2 for Alder/);
});

it('counts what was chosen whichever way round it was asked, and how far it agrees', () => {
  const { preferences } = readOwn(chose('a', 'a', 'a', 'b', 'a', 'tie'));
  // 4 alike of 6: 4·3 / (6·5).
  expect(preferences).toEqual([
    { a: 'alder', b: 'birch', tookA: 4, tookB: 1, ties: 1, agreement: 0.4 },
  ]);
  expect(readOwn(chose('a')).preferences[0]!.agreement).toBeNull();
});

it('says little of a liking between two that were not shown to be told apart', () => {
  const liked = chose('a', 'a', 'a', 'b', 'a', 'tie');
  expect(told([...heard(11, 12), ...liked])[1]).toBe(
    'Of your 6 choices 4 for Alder, 1 for Birch and 1 for neither; any two of these answers are alike in 40 % of cases.',
  );
  expect(told([...heard(3, 12), ...liked])[1]).toContain('this says little');
});

it('takes no notice of controls, and says nothing of nothing', () => {
  const controls = heard(12, 12).map((one) => ({ ...one, role: 'repeat' as const }));
  expect(told(controls)).toEqual([]);
  expect(told([])).toEqual([]);
});
