import { alone } from '@/core/statistics/claims';
import type { AnsweredPart } from '@/core/statistics/reading/answers';
import { standingsOf } from './standings';

const SHOWN = alone(0.001);
const words = (claim: AnsweredPart['claim']) =>
  ({
    number: 2,
    primary: true,
    where: { source: 'voice', context: 'raw' },
    place: '',
    section: 'attributes',
    liking: false,
    listeners: 12,
    claim,
    results: {
      attributes: [
        { word: 'clear', counts: { A: 2, B: 1 }, listeners: 12, p: 0.6, pHolm: 0.8 },
        { word: 'dull', counts: { A: 9, B: 0 }, listeners: 12, p: 0.001, pHolm: 0.002 },
      ],
    },
  }) as unknown as AnsweredPart;

it('keeps the words that were ticked for a chain, the commonest first, and which of them differ', () => {
  const [a, b] = standingsOf([words(SHOWN)]);
  expect(a).toMatchObject({
    part: 2,
    chainId: 'A',
    unit: 'words',
    value: null,
    chains: 2,
    listeners: 12,
    words: [
      { word: 'dull', count: 9, differs: true },
      { word: 'clear', count: 2, differs: false },
    ],
  });
  // A word that nobody ticked for it is none of its own.
  expect(b?.words).toEqual([{ word: 'clear', count: 1, differs: false }]);
});

it('says of no word that it differs where the part claims nothing', () => {
  const [a] = standingsOf([words(alone(0.2))]);
  expect(a?.claimed).toBe(false);
  expect(a?.words.some(({ differs }) => differs)).toBe(false);
});

it('has nothing of a part that asks what can be told apart', () => {
  const audibility = { ...words(SHOWN), section: 'audibility' } as AnsweredPart;
  expect(standingsOf([audibility])).toEqual([]);
});
