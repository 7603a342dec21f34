import type { Outcomes } from '@/core/memory/shortest-bench';
import { benchFinding, reasonsOf } from './bench-words';

const NEVER: Outcomes = { won: 0, 'may be the best': 0, behind: 0, 'nothing shown': 0 };

it('tells the reasons place by place, and says where it was never heard', () => {
  expect(
    reasonsOf({
      alike: { ...NEVER, won: 1, behind: 2 },
      elsewhere: { ...NEVER, 'nothing shown': 1 },
    }),
  ).toEqual({
    here: 'won 1, behind 2, of three places',
    elsewhere: 'nothing shown 1, of one place',
  });
  expect(reasonsOf({ alike: NEVER, elsewhere: NEVER })).toEqual({
    here: 'never heard in such a place',
    elsewhere: 'never heard',
  });
});

it.each([
  [3, true, 'Three chains to record for “alto”, and a cheap one'],
  [1, false, 'One chain to record for “alto”'],
  [0, true, 'Nothing led for “alto” yet; one cheap chain is worth a try'],
  [0, false, 'Nothing that was heard proposes a chain for “alto”'],
])('of %d picks, a cheap one %s, the page says “%s”', (picks, cheap, said) => {
  const proposal = { picks: new Array<null>(picks).fill(null), wildcard: cheap ? {} : null };
  expect(benchFinding('alto', proposal)).toBe(said);
});
