import { decisionDraft } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { draftOf, keptDraft } from './decision-form';

const CHAINS = [
  { id: '3f0a1d0e-0000-4000-8000-000000000001', name: 'Kern' },
  { id: '3f0a1d0e-0000-4000-8000-000000000002', name: 'Halde' },
];
const view = (change: object) =>
  ({
    locked: [],
    places: [],
    chains: CHAINS,
    cheapest: null,
    sitting: null,
    ...change,
  }) as unknown as DecisionView;

it('begins with a line for each place and the cheapest of those that may be the best', () => {
  const draft = draftOf(
    view({ places: [{ place: 'raw' }, { place: 'in the mix' }], cheapest: 'Halde', sitting: {} }),
  );
  expect(draft.uses).toEqual([
    { use: 'raw', verdict: 'chosen', chainId: CHAINS[1]!.id },
    { use: 'in the mix', verdict: 'chosen', chainId: CHAINS[1]!.id },
  ]);
  expect(draft.reasons).toEqual([{ text: '', rests: 'heard' }]);
  // What was not written yet is not taken.
  expect(decisionDraft.safeParse(draft).success).toBe(false);
});

it('claims nothing heard where nothing was', () => {
  const draft = draftOf(view({}));
  expect(draft.uses).toEqual([{ use: '', verdict: 'chosen', chainId: null }]);
  expect(draft.reasons[0]).toMatchObject({ rests: 'by ear alone' });
});

it('begins a later version with the words of the one before, without a chain that is gone', () => {
  const record = {
    uses: [
      { use: 'verse', verdict: 'chosen', chainId: CHAINS[0]!.id, chain: 'Kern' },
      {
        use: 'bridge',
        verdict: 'rejected',
        chainId: '3f0a1d0e-0000-4000-8000-000000000009',
        chain: 'Gone',
      },
    ],
    reasons: [{ text: 'Liked.', rests: 'heard' }],
    wouldChange: 'a lower price',
    decidedBy: 'Mirela Voss',
    listenAgain: '2027-03-14',
  };
  const draft = draftOf(view({ locked: [{ record }] }));
  expect(draft.uses.map(({ chainId }) => chainId)).toEqual([CHAINS[0]!.id, null]);
  // The day is set anew: the old one may be past.
  expect(draft).toMatchObject({ wouldChange: 'a lower price', listenAgain: null });
  expect(draft.reasons).toEqual(record.reasons);
});

describe('what was begun and not locked', () => {
  const left = {
    version: 0,
    at: '2026-11-29T10:00:00.000Z',
    draft: {
      uses: [
        { use: 'verse', verdict: 'chosen', chainId: CHAINS[0]!.id },
        { use: '', verdict: 'postponed', chainId: '3f0a1d0e-0000-4000-8000-000000000009' },
      ],
      // Half a sentence is kept as it is.
      reasons: [{ text: '', rests: 'heard' }],
      wouldChange: 'a low',
      decidedBy: '',
      listenAgain: null,
    },
  };
  const read = (value: object | string, change: object = {}) =>
    keptDraft(typeof value === 'string' ? value : JSON.stringify(value), view(change));

  it('is here again, without a chain that is gone', () => {
    const found = read(left);
    expect(found?.draft.uses.map(({ chainId }) => chainId)).toEqual([CHAINS[0]!.id, null]);
    expect(found?.draft).toMatchObject({ wouldChange: 'a low', reasons: left.draft.reasons });
  });

  it.each([
    ['nothing was begun', null],
    ['it is no JSON', '{'],
    ['it is something else', '[1, 2]'],
    ['a verdict in it is none', JSON.stringify(left).replace('chosen', 'bought')],
  ])('is none where %s', (_, text) => {
    expect(keptDraft(text, view({}))).toBeNull();
  });

  it('is none once a version was locked, here or elsewhere', () => {
    expect(read(left, { locked: [{ record: { version: 1 } }] })).toBeNull();
    expect(read({ ...left, version: 1 }, { locked: [{ record: { version: 1 } }] })).not.toBeNull();
  });
});
