import { randomUUID } from 'node:crypto';
import { nextPair, type JudgedPair } from '@/core/design/adaptive';
import { sha256Hex } from '@/core/design/seal';
import { Random } from '@/core/signal/random';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { analysisOrder, keepAnalysis, keyFile, resultsOf } from '@/steps/results/service';
import { sealedKey, sittingDraft } from '@/steps/sitting/schema';
import { closeSitting, sittingsOf } from '@/steps/sitting/service';
import { HERE, bankWithClips, openTestSitting, testPlan } from '@/steps/test/bank';
import { analyseSitting } from '@/worker/tasks';
import { answer, clipFor, finishStage, join, viewFor } from './service';

withTestDatabase();

const TRIALS = 9;
const CHOICES = [
  'first',
  'second',
  'tie',
  'first',
  'first',
  'second',
  'second',
  'tie',
  'first',
] as const;
let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const pairsOf = async (sittingId: string, seat: number) =>
  (
    await db().rows<{ chains: string[] }>(
      `SELECT array_agg(chain_id::text ORDER BY slot) AS chains FROM trial_clip
       WHERE sitting_id = $1 AND seat = $2 GROUP BY position ORDER BY position`,
      [sittingId, seat],
    )
  ).map(({ chains }) => chains);

it('asks what tells most, by the rule alone, and can be checked with the key', async () => {
  const { comparisonId } = bank;
  const { sittingId, token, seal } = await openTestSitting(
    engineer,
    comparisonId,
    {},
    {
      adaptive: true,
      trials: TRIALS,
    },
  );
  const start = await pairsOf(sittingId, 1);
  const seat = await join(
    token,
    { alias: 'Aino', playback: 'headphones', consent: true },
    HERE,
    NOON,
  );
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  for (const [i, choice] of CHOICES.entries()) {
    const { comingAddresses } = await viewFor(token, seat);
    const loaded = await Promise.all(comingAddresses.map((at) => clipFor(token, seat, at)));
    const given = { position: i + 1, answer: { choice }, key: randomUUID() };
    await answer(token, seat, { ...given, heardS: [3, 3], switches: 1, durationS: 9 }, NOON);
    // What the browser has loaded already is not exchanged behind its back.
    const after = await Promise.all(comingAddresses.map((at) => clipFor(token, seat, at)));
    expect(after.map(({ order }) => order)).toEqual(loaded.map(({ order }) => order));
  }
  // Nobody answered at the second seat, so it stands where it began.
  const untouched = await pairsOf(sittingId, 2);
  await closeSitting(engineer, comparisonId, sittingId, NOON);
  const text = (await keyFile(engineer, comparisonId, sittingId)).body;
  expect(await sha256Hex(text)).toBe(seal);
  const key = sealedKey.parse(JSON.parse(text));
  expect(key.analysis).toContain('largest expected gain');

  const ids = [...bank.chainIds].sort();
  const asked = (await pairsOf(sittingId, 1)).map(([a, b]) => ({
    first: ids.indexOf(a!),
    second: ids.indexOf(b!),
  }));
  const begun = (row: (typeof key.seats)[number][number]) =>
    row.slots.map(([chain]) => key.chains[chain]!.id);
  expect(key.seats[0]!.map(begun)).toEqual(start);
  expect(key.seats[1]!.map(begun)).toEqual(untouched);
  const judged: JudgedPair[] = asked.map((pair, i) => ({ ...pair, choice: CHOICES[i]! }));
  for (let n = 1; n <= TRIALS; n++) {
    if (n <= 2) {
      expect(start[n - 1]!.map((id) => ids.indexOf(id))).toEqual([
        asked[n - 1]!.first,
        asked[n - 1]!.second,
      ]);
      continue;
    }
    const lot = Random.derived(key.adaptiveSeeds?.['1'] ?? 0, `seat 1 trial ${n}`);
    expect(asked[n - 1]).toEqual(nextPair(3, judged.slice(0, n - 2), asked[n - 2]!, lot));
  }
  const order = await analysisOrder(sittingId);
  if (!order) throw new Error('nothing to read');
  await keepAnalysis(sittingId, analyseSitting(order));
  const { result } = await resultsOf(engineer, comparisonId, sittingId);
  expect(result?.answers).toBe(TRIALS);
});

it('leaves controls where they were drawn', async () => {
  const controls = { self: true, levelCatch: true, repeats: 0 };
  const { sittingId, token } = await openTestSitting(
    engineer,
    bank.comparisonId,
    {},
    {
      adaptive: true,
      trials: 5,
      controls,
    },
  );
  const kinds = await db().rows<{ position: number }>(
    `SELECT position FROM trial WHERE sitting_id = $1 AND seat = 1 AND kind <> 'judged'`,
    [sittingId],
  );
  const before = await pairsOf(sittingId, 1);
  const seat = await join(
    token,
    { alias: 'Bero', playback: 'headphones', consent: true },
    HERE,
    NOON,
  );
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  for (let position = 1; position <= 7; position++) {
    const given = { position, answer: { choice: 'first' as const }, key: randomUUID() };
    await answer(token, seat, { ...given, heardS: [3, 3], switches: 1, durationS: 9 }, NOON);
  }
  const after = await pairsOf(sittingId, 1);
  for (const { position } of kinds) expect(after[position - 1]).toEqual(before[position - 1]);
  expect((await viewFor(token, seat)).phase).toBe('finished');
  // Counts of orders that follow the answers would tell of them.
  const { sittings } = await sittingsOf(engineer, bank.comparisonId);
  expect(sittings.find(({ id }) => id === sittingId)?.balances).toEqual([null]);
});

it('is refused where it cannot be', async () => {
  const plan = async (change: object, part: object) =>
    sittingDraft.safeParse(await testPlan(bank.comparisonId, change, { adaptive: true, ...part }));
  expect((await plan({}, {})).success).toBe(true);
  expect((await plan({ codeMode: 'fixed' }, {})).success).toBe(false);
  expect((await plan({ room: 'together' }, {})).success).toBe(false);
  expect((await plan({}, { task: 'line' })).success).toBe(false);
  expect(
    (await plan({}, { controls: { self: false, levelCatch: false, repeats: 2 } })).success,
  ).toBe(false);
  const [a, b] = bank.chainIds;
  expect((await plan({}, { pair: [a, b] })).success).toBe(false);
});
