import { outcomeWords, placeWords, storyFinding } from './place-words';

it('says where something was heard', () => {
  const place = { source: 'contralto', passage: 'quiet verse', context: 'in the mix' };
  expect(placeWords(place)).toBe('contralto, quiet verse; in the mix');
});

it.each([
  ['won', 1, 'won among 6'],
  ['may be the best', 3, 'one of 3 that may be the best, among 6'],
  ['behind', 1, 'behind, among 6'],
  ['nothing shown', 0, 'no preference shown'],
] as const)('says that a chain came out as %s', (outcome, leaders, said) => {
  expect(outcomeWords({ outcome, leaders, chains: 6 })).toBe(said);
});

it('puts an item’s story in one line, without what never happened', () => {
  const outcomes = [
    { outcome: 'won', times: 1 },
    { outcome: 'may be the best', times: 0 },
    { outcome: 'behind', times: 2 },
    { outcome: 'nothing shown', times: 1 },
  ] as const;
  expect(storyFinding('Kern 40', 4, outcomes)).toBe(
    'Kern 40, heard 4 times: won 1, behind in 2, nothing shown in 1',
  );
  expect(storyFinding('Kern 40', 0, [])).toBe('Kern 40: not heard by a panel yet');
});
