import {
  caveats,
  driftText,
  outcomeWords,
  placeWords,
  repeatsText,
  storyFinding,
} from './place-words';

it('says where something was heard', () => {
  const place = { source: 'contralto', passage: 'quiet verse', context: 'in the mix' };
  expect(placeWords(place)).toBe('contralto, quiet verse; in the mix');
});

it('says what is to be held against it, and nothing where nothing is', () => {
  const blind = { simulated: false, sealBroken: false, exploratory: false };
  expect(caveats(blind)).toBe('');
  expect(caveats({ ...blind, exploratory: true })).toBe(
    ', exploratory: names told after each part',
  );
  expect(caveats({ simulated: true, sealBroken: true, exploratory: false })).toBe(
    ', simulated listeners, seal broken',
  );
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

it('says how a test sound stands to the first, the farthest bands first', () => {
  const band = (centerHz: number, db: number) => ({ centerHz, db });
  expect(driftText({ on: '2027-03-01', most: band(250, 0.4), moved: [] })).toBe(
    'as it was, +0.4 dB at 250 Hz at most',
  );
  const moved = [band(50, 2), band(4000, -3), band(63, 2.5), band(80, 1.6), band(100, 1.7)];
  expect(driftText({ on: '2028-03-01', most: band(4000, -3), moved })).toBe(
    'moved: −3.0 dB at 4 kHz, +2.5 dB at 63 Hz, +2.0 dB at 50 Hz, +1.7 dB at 100 Hz and 1 more bands',
  );
  expect(repeatsText({ repeatsDb: 0.62, repeats: 1 })).toBe(
    'repeats to 0.6 dB (played again once)',
  );
  expect(repeatsText({ repeatsDb: 1.5, repeats: 0 })).toContain('never played twice on one day');
});
