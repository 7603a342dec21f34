import type { Observation } from '@/core/statistics/observation';
import { parseResultsFile } from '@/core/statistics/results-file';
import { broughtIn } from './brought-in';
import { TASKS } from './index';

const HEAD = 'listener,source,context,trial,task,chain,chain_b,first,response,replicate,correct';
const read = (...rows: string[]) =>
  parseResultsFile(new TextEncoder().encode([HEAD, ...rows].join('\n'))).observations;

const ROWS = [
  'Ann,voice,raw,1,pair,oak,ash,a,a,1,',
  'Ann,voice,raw,2,pair,oak,ash,b,a,1,',
  'Ann,voice,raw,3,pair,elm,ash,b,tie,1,',
  'Bea,voice,raw,1,rating,oak,,,70,1,',
  'Bea,voice,raw,1,rating,ash,,,41.5,1,',
  'Bea,voice,raw,1,rating,oak,,,66,2,',
  'Ann,voice,mix,1,duo-trio,ash,oak,,,1,1',
  'Ann,voice,mix,2,triangle,ash,oak,,,1,0',
  'Ann,voice,mix,3,two-interval,ash,oak,,,1,1',
  'Ann,voice,mix,4,attribute,ash,,,dull;near,1,',
  'Bea,voice,mix,4,attribute,oak,,,,1,',
];

/** What an observation says, without how often it was asked. */
const saying = (one: Observation) => {
  const { listener, source, context, kind, chain } = one;
  const place = { listener, source, context, kind };
  switch (one.kind) {
    case 'pair': {
      // Who stood first may be called a or b, as long as the winner stays the same.
      const two = { a: chain, b: one.chainB, tie: 'tie', '': '' };
      return { ...place, first: two[one.first], won: two[one.response] };
    }
    case 'rating':
      return { ...place, chain, value: one.value };
    case 'ticks':
      return { ...place, chain, words: one.words };
    case 'forced':
    case 'recall':
      return { ...place, two: [chain, one.chainB].sort(), correct: one.correct };
  }
};

it('what a bank makes of each trial says what the file said', () => {
  const said = read(...ROWS);
  const { parts, faults, leftOut } = broughtIn(said);
  expect({ faults, leftOut }).toEqual({ faults: [], leftOut: 0 });
  expect(parts.map(({ task, context }) => `${task} ${context}`)).toEqual([
    'pair raw',
    'line raw',
    'duo-trio mix',
    'triangle mix',
    'two-interval mix',
    'words mix',
  ]);
  // A recording that is rated again in a trial begins another one.
  expect(parts[1]!.listeners.get('Bea')!.map(({ chains }) => chains)).toEqual([
    ['oak', 'ash'],
    ['oak'],
  ]);
  expect(parts[5]!.words).toEqual(['dull', 'near']);
  const again = parts.flatMap(({ task, source, context, listeners }) =>
    [...listeners].flatMap(([listener, trials]) =>
      trials.flatMap(({ chains, right, answer }) => {
        const trial = { kind: 'judged' as const, chains, right, learned: [], gainsDb: [] };
        return TASKS[task]
          .observe(answer, trial)
          .map((one) => ({ ...one, listener, source, context }));
      }),
    ),
  );
  const sorted = (all: readonly Observation[]) =>
    all.map((one) => JSON.stringify(saying(one))).sort();
  expect(sorted(again as Observation[])).toEqual(sorted(said));
});

it('names what no trial can be made of, and leaves out what was no judgement', () => {
  const said = read(
    'Ann,voice,raw,1,pair,oak,ash,,a,1,',
    'Ann,voice,raw,2,rating,oak,ash,,70,1,',
    'Ann,voice,raw,3,pair,oak,ash,a,b,1,',
  );
  const [control] = read('Ann,voice,raw,4,pair,oak,ash,a,b,1,');
  const { parts, faults, leftOut } = broughtIn([...said, { ...control!, role: 'repeat' }]);
  expect(faults).toEqual([
    { message: 'pairs do not say which of the two was heard first', answers: 1 },
    { message: expect.stringMatching(/^ratings are against another/) as string, answers: 1 },
  ]);
  expect(leftOut).toBe(1);
  expect(parts).toHaveLength(1);
});
