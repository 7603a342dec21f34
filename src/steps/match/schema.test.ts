import { MILD_PROCESSING, NO_PROCESSING } from '@/core/processing/settings';
import { DEFAULT_TONE_MATCH } from '@/core/spectrum/tone-match';
import { newPassage, passageChange } from '@/steps/comparisons/schema';
import { alignmentChange, contextOrder, matchOrder } from './schema';
import { choicesFrom, completed, wantedKinds } from './ui/context-choices';
import type { ClipSet } from './schema';

const ID = '0b0f7f6e-3a39-4c53-a2c2-5f5d9b2d7a10';
const accepts = (shape: { safeParse: (value: unknown) => { success: boolean } }, value: unknown) =>
  shape.safeParse(value).success;

describe('context orders', () => {
  it('take every context with sane settings', () => {
    for (const order of [
      { kind: 'raw' },
      { kind: 'alike', settings: MILD_PROCESSING },
      { kind: 'alike', settings: NO_PROCESSING },
      { kind: 'tailored', settings: { [ID]: MILD_PROCESSING } },
      { kind: 'mix', balanceDb: -3 },
      { kind: 'toned', settings: DEFAULT_TONE_MATCH },
    ]) {
      expect(accepts(contextOrder, order)).toBe(true);
    }
  });

  it.each([
    ['an unknown context', { kind: 'louder' }],
    [
      'a fifth band',
      { kind: 'alike', settings: { ...MILD_PROCESSING, eq: Array(5).fill(MILD_PROCESSING.eq[0]) } },
    ],
    [
      'a gain of 90 dB',
      {
        kind: 'alike',
        settings: { ...MILD_PROCESSING, eq: [{ ...MILD_PROCESSING.eq[0], db: 90 }] },
      },
    ],
    [
      'a ratio under one',
      {
        kind: 'alike',
        settings: { ...MILD_PROCESSING, compressor: { ...MILD_PROCESSING.compressor, ratio: 0.5 } },
      },
    ],
    ['settings of no chain', { kind: 'tailored', settings: { kern: MILD_PROCESSING } }],
    ['a balance that is no number', { kind: 'mix', balanceDb: Number.NaN }],
    ['a limit of nothing', { kind: 'toned', settings: { ...DEFAULT_TONE_MATCH, limitDb: 0 } }],
    ['another phase', { kind: 'toned', settings: { ...DEFAULT_TONE_MATCH, phase: 'maximum' } }],
  ])('refuse %s', (_, order) => {
    expect(accepts(contextOrder, order)).toBe(false);
  });
});

it('a match needs a passage, a reference, and between one and five contexts', () => {
  const order = {
    passageId: ID,
    referenceChainId: ID,
    method: 'hand',
    contexts: [{ kind: 'raw' }],
    offsets: { [ID]: 1.5 },
  };
  expect(accepts(matchOrder, order)).toBe(true);
  expect(matchOrder.parse({ ...order, offsets: undefined }).offsets).toEqual({});
  expect(accepts(matchOrder, { ...order, contexts: [] })).toBe(false);
  expect(accepts(matchOrder, { ...order, method: 'ear' })).toBe(false);
  expect(accepts(matchOrder, { ...order, offsets: { [ID]: 99 } })).toBe(false);
  expect(accepts(matchOrder, { ...order, passageId: 'first' })).toBe(false);
});

it('passages are named, and have both ends or none', () => {
  expect(accepts(newPassage, { name: ' ' })).toBe(false);
  expect(newPassage.parse({ name: 'bridge' })).toEqual({
    name: 'bridge',
    sourceId: null,
    programme: 'performance',
    detail: '',
  });
  expect(accepts(newPassage, { name: 'rest', programme: 'backing' })).toBe(false);
  expect(accepts(passageChange, { name: 'coda' })).toBe(true);
  expect(accepts(passageChange, { fromS: 3 })).toBe(false);
});

it('a marker lies within five seconds', () => {
  const change = { passageId: ID, takeId: ID, alignment: 'hand', delayMs: 4999 };
  expect(accepts(alignmentChange, change)).toBe(true);
  expect(accepts(alignmentChange, { ...change, delayMs: 5001 })).toBe(false);
});

describe('choices of contexts', () => {
  const set = (context: ClipSet['recipe']['context']): ClipSet => ({
    id: ID,
    passageId: ID,
    context: context.kind,
    recipe: { context, offsets: {}, leftOut: [] },
    method: 'loudness',
    referenceChainId: ID,
    passageFromS: 0,
    passageToS: 1,
    state: 'ready',
    remark: null,
    facts: null,
    createdAt: new Date(0),
    sittings: 0,
  });

  it('begin with what was ordered last, else with a mild start', () => {
    const choices = choicesFrom([
      set({ kind: 'mix', balanceDb: -6 }),
      set({ kind: 'mix', balanceDb: 2 }),
    ]);
    expect(choices.mix).toEqual({ kind: 'mix', balanceDb: -6 });
    expect(choices.alike).toEqual({ kind: 'alike', settings: MILD_PROCESSING });
  });

  it('tailored ones are completed for chains that have no settings yet', () => {
    const own = { ...MILD_PROCESSING, highPassHz: 120 };
    expect(
      completed({ kind: 'tailored', settings: { [ID]: own } }, [{ id: ID }, { id: 'b' }]),
    ).toEqual({ kind: 'tailored', settings: { [ID]: own, b: NO_PROCESSING } });
    expect(completed({ kind: 'raw' }, [])).toEqual({ kind: 'raw' });
  });

  it('begin with what the question wants to hear; in the mix only with a backing track', () => {
    const played = { programme: 'performance' } as const;
    expect(wantedKinds(['alone, raw'], true, played)).toEqual(['raw']);
    expect(wantedKinds(['alone, raw', 'alone, processed', 'in the mix'], true, played)).toEqual([
      'raw',
      'alike',
      'mix',
    ]);
    expect(wantedKinds(['in the mix'], false, played)).toEqual(['raw']);
    expect(wantedKinds(['in the mix'], true, { programme: 'room' })).toEqual(['raw']);
  });
});
