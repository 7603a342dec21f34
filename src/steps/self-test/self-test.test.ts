import { randomUUID } from 'node:crypto';
import type { Answer } from '@/core/tasks/task';
import { db } from '@/platform/database';
import { one } from '@/platform/one';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testColleague, testEngineer, withTestDatabase } from '@/platform/test/database';
import { answer, finishStage, join, viewFor } from '@/steps/listening/service';
import { overviewOf } from '@/steps/overview/service';
import { ownAnswersOf } from '@/steps/results/own';
import { resultsOf } from '@/steps/results/service';
import { closeSitting, guardedOf, listenByName, sittingsOf } from '@/steps/sitting/service';
import { bankWithClips, CHAIN_NAMES, HERE, openTestSitting } from '@/steps/test/bank';
import { selfTestOrder } from './schema';
import { beginSelfTest, selfTestsOf } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

const pairOf = (): [string, string] => [bank.chainIds[0]!, bank.chainIds[1]!];
const begin = (by = engineer) =>
  beginSelfTest(
    by,
    bank.comparisonId,
    { clipSetId: bank.clipSetId, pair: pairOf(), task: 'triangle', trials: 10 },
    NOON,
  );

/** Walks a test to an end: right as often as told, then always for what is heard first. */
async function walk(token: string, right: number, most = Infinity): Promise<string> {
  const seat = await join(
    token,
    { alias: 'Me', playback: 'headphones', consent: true },
    HERE,
    NOON,
  );
  await finishStage(token, seat, { stage: 'level' });
  await finishStage(token, seat, { stage: 'practice' });
  for (let given = 0; given < most; given++) {
    const view = await viewFor(token, seat);
    if (view.phase === 'finished') break;
    if (view.phase === 'part') {
      await finishStage(token, seat, { stage: 'part', part: view.part.number });
    }
    const trial = await one(
      db().rows<{ right: number | null }>(
        `SELECT right_slot AS "right" FROM trial JOIN sitting ON sitting.id = sitting_id
         WHERE token = $1 AND position = $2`,
        [token, view.position],
      ),
    );
    const said: Answer =
      trial.right === null
        ? { choice: 'first' }
        : { slot: given < right ? trial.right : (trial.right + 1) % 3 };
    const heardS = view.part.task === 'pair' ? [3, 3] : [3, 3, 3];
    const how = { position: view.position, key: randomUUID(), heardS, switches: 2, durationS: 12 };
    await answer(token, seat, { ...how, answer: said }, NOON);
  }
  return seat;
}

it('is drawn and sealed before the first trial, told nothing on the way, and opened by the last answer', async () => {
  const { token } = await begin();
  const seat = await walk(token, 8, 9);
  const [under] = (await selfTestsOf(engineer, bank.comparisonId)).tests;
  expect(under).toMatchObject({ token, answered: 9, trials: 16, findings: [] });
  await expect(ownAnswersOf(token, seat)).rejects.toMatchObject({ status: 409 });
  expect(JSON.stringify(await viewFor(token, seat))).not.toContain(CHAIN_NAMES[0]);
});

it('tells what it came to at once, about whoever took it, and adds up over days', async () => {
  const { token } = await begin();
  const seat = await walk(token, 8);
  expect(await viewFor(token, seat)).toMatchObject({
    phase: 'finished',
    purpose: 'self-test',
    keyOpen: true,
  });
  const [a, b] = [...CHAIN_NAMES.slice(0, 2)].sort();
  const own = await ownAnswersOf(token, seat);
  // P(X ≥ 8) of 10 at one third: 201 / 59049.
  expect(own.findings[0]).toContain('8 of 10 right, where guessing gives 3 (p\u00a0=\u00a00.003)');
  expect(own.findings[0]).toMatch(/^You told .+ and .+ apart/);
  expect(own.parts[0]!.right).toEqual({ own: 8, of: 10, panel: null });
  expect(own.findings[1]).toContain('Of your 6 choices');
  const { tests, together } = await selfTestsOf(engineer, bank.comparisonId);
  expect(tests[0]).toMatchObject({ token: null, answered: 16, findings: own.findings });
  expect([tests[0]!.title.includes(a!), tests[0]!.title.includes(b!)]).toEqual([true, true]);
  expect(together).toEqual([]);
  await walk((await begin()).token, 2);
  const [sum] = (await selfTestsOf(engineer, bank.comparisonId)).together;
  expect(sum).toMatchObject({ tests: 2 });
  // P(X ≥ 10) of 20 at one third is 0.0919.
  expect(sum!.findings[0]).toContain('10 of 20 right');
  expect(sum!.findings[0]).toContain('0.09');
});

it('goes over all chains of the clips: every two of them, told as a whole', async () => {
  const { token } = await beginSelfTest(
    engineer,
    bank.comparisonId,
    { clipSetId: bank.clipSetId, pair: null, task: 'triangle', trials: 12 },
    NOON,
  );
  const asked = await db().rows<{ part: number; pair: string; count: number }>(
    `SELECT CASE WHEN position <= 12 THEN 1 ELSE 2 END AS part, chains AS pair, count(*)::int AS count FROM (
       SELECT trial_clip.position, string_agg(DISTINCT name, ' ' ORDER BY name) AS chains
       FROM sitting JOIN trial_clip ON trial_clip.sitting_id = sitting.id
         JOIN chain ON chain.id = trial_clip.chain_id
       WHERE token = $1 GROUP BY trial_clip.position) AS heard
     GROUP BY 1, 2 ORDER BY 1, 2`,
    [token],
  );
  const [a, b, c] = [...CHAIN_NAMES].sort();
  expect(asked).toEqual(
    [1, 2].flatMap((part) =>
      [`${a} ${b}`, `${a} ${c}`, `${b} ${c}`].map((pair) => ({
        part,
        pair,
        count: part === 1 ? 4 : 2,
      })),
    ),
  );
  await walk(token, 12);
  const [test] = (await selfTestsOf(engineer, bank.comparisonId)).tests;
  expect(test!.title).toBe('All 3 chains');
  // All of 12 at one third: 3^-12.
  expect(test!.findings[0]).toBe(
    'You told some of them apart: 12 of 12 right over 3 pairs, where guessing gives 4 (p\u00a0<\u00a00.001).',
  );
});

it('stands beside the panel’s sittings: nobody else sees it, and nothing of the panel’s counts it', async () => {
  const { token } = await begin();
  await walk(token, 10);
  const { comparisonId } = bank;
  expect((await sittingsOf(engineer, comparisonId)).sittings).toEqual([]);
  expect((await resultsOf(engineer, comparisonId, null)).sittings).toEqual([]);
  expect((await guardedOf(engineer, comparisonId)).clipSetIds).toEqual([]);
  expect(
    (await overviewOf(engineer, comparisonId)).steps.find(({ id }) => id === 'sitting'),
  ).toMatchObject({ word: 'to plan' });
  const colleague = await testColleague(engineer, 'Oto Lind');
  expect((await selfTestsOf(colleague, comparisonId)).tests).toEqual([]);
  const stranger = await testEngineer('Somebody Else');
  await expect(selfTestsOf(stranger, comparisonId)).rejects.toMatchObject({ status: 404 });
  await expect(begin(stranger)).rejects.toMatchObject({ status: 404 });
});

it('says whether the clips had been heard by name before, by the same person alone', async () => {
  const { comparisonId, clipSetId } = bank;
  const newest = async (by: SignedIn) => (await selfTestsOf(by, comparisonId)).tests[0]!;
  const colleague = await testColleague(engineer, 'Petra Ahl');
  await listenByName(colleague, comparisonId, { clipSetId }, false, NOON);
  await begin();
  expect((await newest(engineer)).heardBefore).toBe(false);
  await begin(colleague);
  expect((await newest(colleague)).heardBefore).toBe(true);
  const { id } = await one(
    db().rows<{ id: string }>('SELECT take_id AS id FROM clip WHERE chain_id = $1 LIMIT 1', [
      bank.chainIds[1]!,
    ]),
  );
  await listenByName(engineer, comparisonId, { takeId: id }, false, NOON);
  await listenByName(engineer, comparisonId, { takeId: id }, false, NOON);
  await begin();
  expect((await newest(engineer)).heardBefore).toBe(true);
});

it.each([
  [{ trials: 9 }, 'Fewer than 10 trials'],
  [{ trials: 26 }, 'More than 25 trials'],
  [{ task: 'pair' }, 'expected one of'],
  [
    { pair: ['5b9c4f6e-0000-4000-8000-000000000001', '5b9c4f6e-0000-4000-8000-000000000001'] },
    'different',
  ],
])('refuses %j', (change, sentence) => {
  const order = { clipSetId: bank.clipSetId, pair: pairOf(), task: 'triangle', trials: 12 };
  const { error } = selfTestOrder.safeParse({ ...order, ...change });
  expect(JSON.stringify(error?.issues)).toContain(sentence);
});

it('waits while a sitting asks the panel about the same clips', async () => {
  const { sittingId } = await openTestSitting(engineer, bank.comparisonId);
  await expect(begin()).rejects.toMatchObject({ status: 409 });
  await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
  await begin();
});

it('refuses chains that are not among the clips', async () => {
  const pair: [string, string] = [bank.chainIds[0]!, randomUUID()];
  const order = { clipSetId: bank.clipSetId, pair, task: 'triangle', trials: 12 } as const;
  await expect(beginSelfTest(engineer, bank.comparisonId, order, NOON)).rejects.toMatchObject({
    status: 422,
  });
});
