import { levelNotes, variantNotes } from './heard-as';

const NAMES: Record<string, string> = { a: 'Kern', b: 'Halde', c: 'thin', d: 'louder', e: 'again' };
const notes = (chainId: string, details: Parameters<typeof variantNotes>[0][number]['details']) =>
  variantNotes([{ chainId, details }], (id) => NAMES[id] ?? '');

it('says what a variant was, and nothing of other chains', () => {
  expect(notes('a', {})).toEqual([]);
  expect(
    notes('c', { variantOf: 'a', stages: [{ kind: 'high-pass', hz: 300 }], onPurposeDb: 0 }),
  ).toEqual(['“thin” is “Kern” once more, through high-pass 300 Hz.']);
  expect(notes('e', { variantOf: 'b', stages: [], onPurposeDb: 0 })).toEqual([
    '“again” is “Halde” once more, unprocessed.',
  ]);
});

it('warns where a clip was louder or quieter on purpose', () => {
  expect(
    notes('d', { variantOf: 'a', stages: [{ kind: 'level', db: 0.5 }], onPurposeDb: 0.5 }),
  ).toEqual([
    '“louder” is “Kern” once more. It was 0.5 dB louder than the others on purpose; liking it may be loudness alone.',
  ]);
  const stages = [
    { kind: 'high-pass', hz: 80 },
    { kind: 'level', db: -1 },
  ] as const;
  expect(notes('d', { variantOf: 'a', stages: [...stages], onPurposeDb: -1 })[0]).toContain(
    'through high-pass 80 Hz. It was 1.0 dB quieter',
  );
});

it('says it once, however many parts it was heard in', () => {
  const clip = { chainId: 'e', details: { variantOf: 'b', stages: [], onPurposeDb: 0 } };
  expect(variantNotes([clip, clip], (id) => NAMES[id] ?? '')).toHaveLength(1);
});

it('says of each part that was not heard at one loudness what was made equal', () => {
  expect(levelNotes([{ part: 1, method: 'loudness' }])).toEqual([]);
  expect(levelNotes([{ part: 1, method: 'gain' }])).toEqual([
    'It was heard at one gain, not at one loudness: what was louder is liked better for that alone.',
  ]);
  expect(
    levelNotes([
      { part: 1, method: 'loudness' },
      { part: 2, method: 'rms' },
      { part: 2, method: 'rms' },
    ]),
  ).toEqual([
    'Part 2 was matched by average power, not by loudness: what was louder is liked better for that alone.',
  ]);
});
