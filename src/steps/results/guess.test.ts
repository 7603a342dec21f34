import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { one } from '@/platform/one';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import type { Joining } from '@/steps/listening/schema';
import { join, viewFor } from '@/steps/listening/service';
import { sittingDraft } from '@/steps/sitting/schema';
import { insertAnswer } from '@/steps/sitting/seats';
import { closeSitting } from '@/steps/sitting/service';
import { analysed } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES, HERE, openTestSitting, testPlan } from '@/steps/test/bank';
import { ownAnswersOf } from './own';
import { answersJson, resultsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Guess keeper');
  bank = await bankWithClips(engineer);
});

const SORTED = [...CHAIN_NAMES].sort();
const BEST = CHAIN_NAMES[2]!;

const joins = (token: string, alias: string, guess?: Joining['guess']) =>
  join(token, { alias, playback: 'headphones', consent: true, guess }, HERE, NOON);
const guessKept = (sittingId: string, alias: string) =>
  one(
    db().rows<{ guess: unknown }>(
      'SELECT guess FROM listener WHERE sitting_id = $1 AND alias = $2',
      [sittingId, alias],
    ),
  );

/** Of the chains by their places, how somebody who is not of the others' mind likes them. */
const LIKINGS: Record<string, [number, number, number]> = {
  Ida: [1, 2, 0],
  Jo: [2, 1, 0],
  Kim: [0, 2, 1],
};

/** Likes the third chain best, then the first, as all but three do. */
async function answersAll(sittingId: string, alias: string): Promise<void> {
  const { id: listenerId, seat } = await one(
    db().rows<{ id: string; seat: number }>(
      'SELECT id, seat FROM listener WHERE sitting_id = $1 AND alias = $2',
      [sittingId, alias],
    ),
  );
  const trials = await db().rows<{ position: number; chains: string[] }>(
    `SELECT position, array_agg(chain_id::text ORDER BY slot) AS chains FROM trial_clip
     WHERE sitting_id = $1 AND seat = $2 GROUP BY position ORDER BY position`,
    [sittingId, seat],
  );
  const liking = (LIKINGS[alias] ?? [2, 0, 1]).map((place) => bank.chainIds[place]!);
  for (const { position, chains } of trials) {
    const [first, second] = chains.map((chain) => liking.indexOf(chain)) as [number, number];
    const choice = first < second ? ('first' as const) : ('second' as const);
    const given = { position, answer: { choice }, key: randomUUID(), heardS: [3, 3], switches: 1 };
    const how = { durationS: 9, hasty: false, serverS: 9, unfetched: false };
    await insertAnswer(db(), { listenerId, sittingId, seat }, { ...given, ...how }, NOON);
  }
}

it('names are read only where a guess is asked, only to join, and in the order of the alphabet', async () => {
  const plain = await openTestSitting(engineer, bank.comparisonId);
  const unasked = await viewFor(plain.token, undefined);
  expect(unasked.guessAmong).toBeNull();
  for (const name of CHAIN_NAMES) expect(JSON.stringify(unasked)).not.toContain(name);
  // Whoever sends one unasked leaves nothing behind.
  await joins(plain.token, 'Unasked', { favourite: 0, toldApart: 'surely' });
  expect((await guessKept(plain.sittingId, 'Unasked')).guess).toBeNull();
  const asked = await openTestSitting(engineer, bank.comparisonId, { asksGuess: true });
  expect((await viewFor(asked.token, undefined)).guessAmong).toEqual(SORTED);
  const seat = await joins(asked.token, 'Asked', { favourite: null, toldApart: null });
  const seated = await viewFor(asked.token, seat);
  expect(seated.guessAmong).toBeNull();
  for (const name of CHAIN_NAMES) expect(JSON.stringify(seated)).not.toContain(name);
  await expect(
    joins(asked.token, 'Beyond', { favourite: 3, toldApart: null }),
  ).rejects.toMatchObject({ status: 422 });
  // Refused with the guess is the seat: nobody sits there by half.
  expect((await viewFor(asked.token, undefined)).phase).toBe('join');
  expect(
    await db().rows("SELECT 1 FROM listener WHERE sitting_id = $1 AND alias = 'Beyond'", [
      asked.sittingId,
    ]),
  ).toEqual([]);
});

it('a plan that never tells the names cannot ask for a guess among them', async () => {
  const plan = await testPlan(bank.comparisonId, { asksGuess: true, reveal: 'never' });
  expect(sittingDraft.safeParse(plan).error?.issues[0]?.message).toMatch(/reads the names/);
});

it('what the panel expected stands beside the outcome, for the engineer and for each of them', async () => {
  const aliases = [
    'Ada',
    'Ben',
    'Cleo',
    'Dag',
    'Ellen',
    'Finn',
    'Gro',
    'Hauk',
    'Ida',
    'Jo',
    'Kim',
    'Liv',
    'Mats',
  ];
  const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId, {
    asksGuess: true,
    seats: aliases.length,
  });
  const seats: string[] = [];
  for (const [i, alias] of aliases.entries()) {
    // Five expect the third, two the first of the list, one says only that they differ.
    const favourite = i < 5 ? SORTED.indexOf(BEST) : i < 7 ? 0 : null;
    seats.push(await joins(token, alias, { favourite, toldApart: i === 7 ? 'surely' : null }));
    await answersAll(sittingId, alias);
  }
  await closeSitting(engineer, bank.comparisonId, sittingId, new Date());
  await analysed(sittingId);
  const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
  const predictions = result!.across!.answers.predictions;
  const panel = predictions.filter(({ role }) => role === 'listener');
  // Nothing was guessed by the last five, so nothing is told of them.
  expect(panel.map(({ by }) => by)).toEqual(aliases.slice(0, 8));
  expect(panel.slice(0, 5).map(({ said, outcome }) => [said, outcome])).toEqual(
    Array.from({ length: 5 }, () => [BEST, 'right']),
  );
  expect(panel[5]).toMatchObject({ about: 'winner', said: SORTED[0], outcome: 'wrong' });
  expect(panel[7]).toMatchObject({ about: 'distinguishable', said: 'yes', outcome: 'right' });
  const { body } = await answersJson(engineer, bank.comparisonId, sittingId);
  const { listeners } = JSON.parse(body) as { listeners: { expected: unknown }[] };
  expect(listeners[0]!.expected).toEqual({ favourite: BEST, toldApart: null });
  expect(listeners[12]!.expected).toEqual({ favourite: null, toldApart: null });
  const [ada] = seats;
  expect((await ownAnswersOf(token, ada)).expected).toEqual([
    { about: 'winner', said: BEST, outcome: 'right' },
  ]);
  expect((await ownAnswersOf(token, seats[7])).expected).toEqual([
    { about: 'distinguishable', said: 'yes', outcome: 'right' },
  ]);
});
