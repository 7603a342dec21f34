import { NO_RULE, ruleWords, setAsideRule } from '@/core/design/set-aside-rule';
import type { Observation, Of } from './observation';
import { setAside } from './set-aside';

const judged = (change: Partial<Of<'pair'>>): Observation => ({
  kind: 'pair',
  role: 'judged',
  listener: 'Aino',
  source: '',
  passage: '',
  context: '',
  sitting: '',
  part: '1',
  trial: '1',
  replicate: 1,
  chain: 'a',
  chainB: 'b',
  first: 'a',
  louder: '',
  response: 'a',
  ...change,
});

/** Pairs judged and asked again the other way round; of the repeats so many are answered alike. */
function repeated(listener: string, pairs: number, alike: number): Observation[] {
  return Array.from({ length: pairs }, (_, i) => {
    const [chain, chainB] = [`x${i}`, `y${i}`];
    const again = { chain: chainB, chainB: chain, first: 'a' as const };
    return [
      judged({ listener, chain, chainB, trial: `${i}` }),
      judged({
        listener,
        ...again,
        role: 'repeat',
        trial: `r${i}`,
        response: i < alike ? 'b' : 'a',
      }),
    ];
  }).flat();
}

const louder = (listener: string, times: number, of: number): Observation[] =>
  Array.from({ length: of }, (_, i) =>
    judged({
      listener,
      chainB: 'a',
      role: 'louder',
      louder: 'b',
      trial: `${i}`,
      response: i < times ? 'b' : 'tie',
    }),
  );

const listened = (listener: string, answers: number, hasty = 0, trials = 12) => ({
  listener,
  trials,
  answers,
  hasty,
});

it('sets nobody aside where the plan says nothing', () => {
  expect(setAside(NO_RULE, [listened('Aino', 1, 1)], [])).toEqual([]);
  expect(ruleWords(NO_RULE)).toBe('');
});

it('tells who answered too few, or too hastily; the very share is neither', () => {
  const rule = setAsideRule.parse({ answeredPct: 50, hastyPct: 25 });
  const all = [listened('Aino', 6, 2), listened('Bruno', 5), listened('Celia', 8, 2)];
  expect(setAside(rule, all, [])).toEqual([
    // 2 of 6 are a third.
    { listener: 'Aino', grounds: ['hasty in 2 of 6'] },
    { listener: 'Bruno', grounds: ['answered 5 of 12'] },
  ]);
  expect(ruleWords(rule)).toBe(
    'answered fewer than 50 % of their trials, or was hasty in more than 25 % of their answers',
  );
});

it('reads repeats and louder twins of one listener, from four on', () => {
  const rule = setAsideRule.parse({ alikePct: 60, louderPct: 75 });
  const all = ['Aino', 'Bruno', 'Celia', 'Dario', 'Edda'].map((name) => listened(name, 12));
  const said = [
    ...repeated('Aino', 5, 2),
    ...repeated('Bruno', 5, 3),
    // Three repeats, none of them alike, say nothing yet.
    ...repeated('Celia', 3, 0),
    ...louder('Dario', 4, 4),
    ...louder('Edda', 3, 4),
  ];
  expect(setAside(rule, all, said)).toEqual([
    { listener: 'Aino', grounds: ['answered 2 of 5 repeats alike'] },
    { listener: 'Dario', grounds: ['chose the louder 4 of 4 times'] },
  ]);
});

it('a rule holds whole shares from 1 to 99 %', () => {
  for (const answeredPct of [0, 100, 33.5]) {
    expect(setAsideRule.safeParse({ answeredPct }).success).toBe(false);
  }
});
