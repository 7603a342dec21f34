import type { ChainMake } from '@/core/statistics/chains-file';
import { alone } from '@/core/statistics/claims';
import type { Observation } from '@/core/statistics/observation';
import { readAcross } from '@/core/statistics/reading';
import type { AnsweredPart } from '@/core/statistics/reading/answers';
import { readAll, SECTIONS } from '@/core/statistics/sections';
import { acrossOf } from './across';

const CHAINS = ['Ahorn', 'Birke', 'Eiche'];
const LISTENERS = ['Ada', 'Ben', 'Cleo', 'Dag', 'Ellen', 'Finn', 'Gro'];

/** Everybody hears every pair both ways round; `worth` says how much each listener likes each chain. */
function pairs(worth: (listener: string, chain: string) => number): Observation[] {
  return LISTENERS.flatMap((listener) =>
    CHAINS.flatMap((chain) =>
      CHAINS.filter((other) => other !== chain).map((chainB, i): Observation => {
        const difference = worth(listener, chain) - worth(listener, chainB);
        return {
          kind: 'pair',
          role: 'judged',
          listener,
          chain,
          chainB,
          first: 'a',
          response: difference > 0 ? 'a' : difference < 0 ? 'b' : 'tie',
          louder: '',
          source: 'voice',
          passage: 'verse',
          context: 'raw',
          sitting: '',
          part: '1',
          trial: `${chain} ${i}`,
          replicate: 1,
        };
      }),
    ),
  );
}

function shown(observations: Observation[], more: Partial<Parameters<typeof acrossOf>[0]> = {}) {
  const judged = observations.filter(({ role }) => role === 'judged');
  const { results } = readAll(judged, { seed: 1, made: null });
  const part: AnsweredPart = {
    number: 1,
    primary: true,
    where: { source: 'voice', context: 'raw' },
    place: '',
    section: 'pair',
    liking: true,
    results,
    claim: alone(SECTIONS.pair.headlineP(results)),
    listeners: LISTENERS.length,
  };
  const file = {
    observations: judged,
    skipped: { blank: 0, missing: 0, duplicate: 0 },
    warnings: [],
  };
  return acrossOf({
    parts: [part],
    reading: readAcross(file, { seed: 1, plan: {}, chains: null }),
    observations,
    made: [],
    question: null,
    source: 'voice',
    passage: 'verse',
    levelsDb: new Map(),
    ...more,
  });
}

const ORDER: Record<string, number> = { Ahorn: 2, Birke: 1, Eiche: 1 };

it('gives chains their ranks for each listener, equal ones the middle', () => {
  const { listeners, picture, tiesShare } = shown(pairs((_, chain) => ORDER[chain]!));
  expect(listeners?.rows).toHaveLength(LISTENERS.length);
  for (const { ranks } of listeners?.rows ?? []) {
    expect(ranks).toEqual({ Ahorn: 1, Birke: 2.5, Eiche: 2.5 });
  }
  // Two of six judgements of each listener are ties.
  expect(tiesShare).toBeCloseTo(1 / 3, 12);
  expect(picture[0]!.chains.filter(({ leads }) => leads).map(({ chain }) => chain)).toEqual([
    'Ahorn',
  ]);
});

it('counts who follows loudness and who likes the first, apart from every rank', () => {
  const [one] = pairs(() => 0);
  const control = (listener: string, change: Partial<Observation>) =>
    ({ ...one!, listener, chainB: one!.chain, ...change }) as Observation;
  const { listeners } = shown([
    ...pairs((_, chain) => ORDER[chain]!),
    control('Ada', { role: 'louder', louder: 'b', response: 'b' }),
    control('Ada', { role: 'louder', louder: 'a', response: 'b' }),
    control('Ada', { role: 'self', first: 'a', response: 'a' }),
    control('Ben', { role: 'self', first: 'a', response: 'tie' }),
  ]);
  const of = (name: string) => listeners?.rows.find(({ listener }) => listener === name);
  expect(of('Ada')).toMatchObject({ levelCatch: { times: 1, of: 2 }, first: { times: 1, of: 1 } });
  expect(of('Ben')).toMatchObject({ levelCatch: null, first: { times: 0, of: 1 } });
  expect(of('Cleo')).toMatchObject({ levelCatch: null, first: null });
});

it('fills nothing where no preference is claimed', () => {
  // Each likes another first, and the order of the rest as often one way as the other.
  const { picture, answers } = shown(
    pairs((listener, chain) => ((LISTENERS.indexOf(listener) + CHAINS.indexOf(chain)) * 7) % 3),
  );
  expect(picture[0]).toMatchObject({ claimed: false });
  expect(picture[0]!.chains.some(({ leads }) => leads)).toBe(false);
  expect(answers.liked.sentence).toBe('No preference shown.');
});

it('says which combinations of a grid nobody heard', () => {
  const made: [string, ChainMake][] = [
    ['Ahorn', { microphone: 'K', preamp: 'L', price: null }],
    ['Birke', { microphone: 'K', preamp: 'T', price: null }],
    ['Eiche', { microphone: 'H', preamp: 'L', price: null }],
  ];
  // Some like it the other way round, so that nobody always wins and strengths have a size.
  const observations = pairs((listener, chain) =>
    LISTENERS.indexOf(listener) % 3 === 0 ? -ORDER[chain]! : ORDER[chain]!,
  );
  const file = { observations, skipped: { blank: 0, missing: 0, duplicate: 0 }, warnings: [] };
  const reading = readAcross(file, {
    seed: 1,
    plan: {},
    chains: { priced: false, made: new Map(made) },
  });
  const { links } = shown(observations, { made, reading });
  expect(links?.missing).toEqual(['H with T']);
  expect(links?.read.pair?.effects).toHaveLength(4);
});
