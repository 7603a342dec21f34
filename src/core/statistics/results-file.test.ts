import fc from 'fast-check';
import { parseResultsFile, writeResultsFile } from './results-file';
import { type Observation, withReplicates } from './observation';

/** Names with everything that a table could stumble over. */
const name = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
  .map((text) => text.replace(/[\u0000-\u001f\u007f]/g, '').trim())
  .filter((text) => text !== '' && !text.startsWith("'"))
  .chain((text) => fc.constantFrom(text, `=${text}`, `"${text}", ${text}`, `-${text}`));
const text = fc.oneof(fc.constant(''), name);

const where = fc.record({
  listener: name,
  source: text,
  passage: text,
  context: text,
  sitting: text,
  part: fc.integer({ min: 1, max: 9 }).map(String),
});
const role = fc.constantFrom('judged' as const, 'repeat' as const);
const two = fc
  .tuple(name, name)
  .filter(([a, b]) => a !== b)
  .map(([chain, chainB]) => ({ chain, chainB }));
const first = fc.constantFrom('' as const, 'a' as const, 'b' as const);
const response = fc.constantFrom('a' as const, 'b' as const, 'tie' as const);

const heard = fc.oneof(
  fc.record({ role, two, first, response }).map(({ two: both, ...rest }) => ({
    kind: 'pair' as const,
    ...rest,
    ...both,
    louder: '' as const,
  })),
  fc
    .record({
      role: fc.constantFrom('self' as const, 'louder' as const),
      chain: name,
      first,
      response,
      louder: first,
    })
    .map((one) => ({ kind: 'pair' as const, ...one, chainB: one.chain })),
  fc.record({
    kind: fc.constant('rating' as const),
    role,
    chain: name,
    value: fc.integer({ min: 0, max: 1000 }).map((tenths) => tenths / 10),
    against: text,
    scale: text,
  }),
  fc
    .record({
      role,
      two,
      task: fc.constantFrom('duo-trio' as const, 'triangle' as const, 'two-interval' as const),
      correct: fc.boolean(),
    })
    .map(({ two: both, ...rest }) => ({ kind: 'forced' as const, ...rest, ...both })),
  fc
    .record({ role, two, correct: fc.boolean() })
    .map(({ two: both, ...rest }) => ({ kind: 'recall' as const, ...rest, ...both })),
  fc.record({
    kind: fc.constant('ticks' as const),
    role,
    chain: name,
    words: fc.array(fc.constantFrom('warm', 'thin', 'very dark'), { maxLength: 3 }),
  }),
);

it('gives every observation back as it was written, controls and memory included', () => {
  const some = fc.array(fc.tuple(where, heard), { minLength: 1, maxLength: 30 });
  fc.assert(
    fc.property(some, (drawn) => {
      const observations = withReplicates(
        drawn.map(([at, said], i) => ({ ...at, ...said, trial: `${i}` })),
      ) as Observation[];
      const more = { fields: ['heard_s'], of: (i: number) => [i] };
      const file = writeResultsFile(observations, more);
      const read = parseResultsFile(new TextEncoder().encode(file));
      expect(read.observations).toEqual(observations);
      expect(read.warnings.map(({ code }) => code)).toEqual(['extra-column']);
    }),
    { seed: 12, numRuns: 200 },
  );
});

const HEADER = 'listener,source,context,trial,task,chain,chain_b,first,response,replicate,correct';
const bytes = (lines: string[]) => new TextEncoder().encode(lines.join('\n'));

it('takes answers from memory and controls only in a bank’s own file', () => {
  const memory = 'L1,,,1,memory,x,y,,,,1';
  expect(() => parseResultsFile(bytes([HEADER, memory]))).toThrow('row 2: the task "memory"');
  expect(parseResultsFile(bytes([`${HEADER},control`, `${memory},`])).observations).toMatchObject([
    { kind: 'recall', role: 'judged', correct: true },
  ]);
  const self = 'L1,,,1,pair,x,x,a,a,,';
  expect(() => parseResultsFile(bytes([`${HEADER},control`, `${self},`]))).toThrow('the same');
  expect(parseResultsFile(bytes([`${HEADER},control`, `${self},self`])).observations).toMatchObject(
    [{ role: 'self' }],
  );
});

it('keeps sittings apart where the file names them and they are asked for', () => {
  const rows = [`${HEADER},sitting`, 'L1,,,1,pair,x,y,a,a,,,one', 'L1,,,1,pair,x,y,a,b,,,two'];
  expect(parseResultsFile(bytes(rows), true).observations.map(({ sitting }) => sitting)).toEqual([
    'one',
    'two',
  ]);
  expect(() => parseResultsFile(bytes(rows))).toThrow('row 3: contradicts');
});

it('numbers what was asked again in the same place', () => {
  const at = { listener: 'L', source: 's', passage: '', context: 'c', sitting: '', part: '1' };
  const rated = (chain: string, trial: string) =>
    ({
      ...at,
      kind: 'rating',
      role: 'judged',
      chain,
      value: 1,
      against: '',
      scale: '',
      trial,
    }) as const;
  const numbered = withReplicates([
    rated('x', '1'),
    rated('y', '1'),
    rated('x', '2'),
    { ...rated('x', '3'), context: 'd' },
  ]);
  expect(numbered.map(({ replicate }) => replicate)).toEqual([1, 1, 2, 1]);
});
