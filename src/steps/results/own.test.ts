import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import type { Answer } from '@/core/tasks/task';
import { join, keyForListener, viewFor } from '@/steps/listening/service';
import type { SittingDraft } from '@/steps/sitting/schema';
import { insertAnswer } from '@/steps/sitting/seats';
import { closeSitting } from '@/steps/sitting/service';
import { bankWithClips, CHAIN_NAMES, HERE, openTestSitting } from '@/steps/test/bank';
import { analyseSitting } from '@/worker/tasks';
import { ownAnswersOf } from './own';
import { analysisOrder, keepAnalysis } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

/** Two listeners: the first always chooses what was heard first and is always right, the second never. */
async function heardByTwo(change: Partial<SittingDraft> = {}) {
  const { token, sittingId } = await openTestSitting(
    engineer,
    bank.comparisonId,
    change,
    {},
    {
      task: 'duo-trio',
      pair: [bank.chainIds[0]!, bank.chainIds[1]!],
      trials: 4,
      tiesAllowed: false,
    },
  );
  const seats: string[] = [];
  for (const alias of ['Ada', 'Ben']) {
    seats.push(await join(token, { alias, playback: 'headphones', consent: true }, HERE, NOON));
    const { id, seat } = await one(
      db().rows<{ id: string; seat: number }>(
        'SELECT id, seat FROM listener WHERE sitting_id = $1 AND alias = $2',
        [sittingId, alias],
      ),
    );
    const trials = await db().rows<{ position: number; right: number | null }>(
      `SELECT position, right_slot AS "right" FROM trial WHERE sitting_id = $1 AND seat = $2`,
      [sittingId, seat],
    );
    for (const { position, right } of trials) {
      const first = alias === 'Ada';
      const answer: Answer =
        right === null
          ? { choice: first ? 'first' : 'tie' }
          : { slot: first ? right : right === 1 ? 2 : 1 };
      const given = { position, answer, key: randomUUID(), heardS: [3, 3], switches: 1 };
      const how = { durationS: 9, hasty: false, serverS: 9, unfetched: false };
      await insertAnswer(db(), { listenerId: id, sittingId, seat }, { ...given, ...how }, NOON);
    }
  }
  return { token, sittingId, seats: seats as [string, string] };
}

it('tells a listener nothing before closing, and their own answers with the names afterwards', async () => {
  const { token, sittingId, seats } = await heardByTwo();
  const [ada, ben] = seats;
  await expect(ownAnswersOf(token, ada)).rejects.toMatchObject({ status: 409 });
  expect(JSON.stringify(await viewFor(token, ada))).not.toContain(CHAIN_NAMES[0]);
  await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
  await expect(ownAnswersOf(token, undefined)).rejects.toMatchObject({ status: 401 });

  const before = await ownAnswersOf(token, ada);
  // Answers need no analysis; how the panel did comes with it.
  expect(before.agreement).toBeNull();
  const order = await analysisOrder(sittingId);
  await keepAnalysis(sittingId, analyseSitting(order!));
  const [own, other] = [await ownAnswersOf(token, ada), await ownAnswersOf(token, ben)];
  expect(own.parts[0]!.said).toHaveLength(3);
  for (const line of own.parts[0]!.said) expect(line.kind).toBe('rather');
  for (const line of other.parts[0]!.said) expect(line.kind).toBe('tie');
  const panel = { mean: 2, from: 0, to: 4 };
  expect(own.parts[1]!.right).toEqual({ own: 4, of: 4, panel });
  expect(other.parts[1]!.right).toEqual({ own: 0, of: 4, panel });
  // Each line is what was really heard: the first clip of that listener's own trial.
  const trials = await db().rows<{ first: string; second: string }>(
    `SELECT max(chain.name) FILTER (WHERE slot = 0) AS first, max(chain.name) FILTER (WHERE slot = 1) AS second
     FROM trial_clip JOIN chain ON chain.id = chain_id JOIN listener ON listener.sitting_id = trial_clip.sitting_id
       AND listener.seat = trial_clip.seat AND alias = 'Ada'
     WHERE trial_clip.sitting_id = $1 AND trial_clip.position <= 3 GROUP BY trial_clip.position ORDER BY trial_clip.position`,
    [sittingId],
  );
  expect(own.parts[0]!.said).toEqual(
    trials.map(({ first, second }) => ({ kind: 'rather', a: first, b: second })),
  );
});

it('gives no names where that was sealed, not in the key either', async () => {
  const { token, sittingId, seats } = await heardByTwo({ reveal: 'never' });
  await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
  const [ada] = seats;
  expect(await viewFor(token, ada)).toMatchObject({ keyOpen: false, reveal: 'never' });
  await expect(ownAnswersOf(token, ada)).rejects.toMatchObject({ status: 403 });
  await expect(keyForListener(token, ada)).rejects.toMatchObject({ status: 403 });
  const { key } = await one(
    db().rows<{ key: string }>('SELECT sealed_key AS key FROM sitting WHERE id = $1', [sittingId]),
  );
  expect(JSON.parse(key)).toMatchObject({ plan: { reveal: 'never' } });
});
