import type { TaskId } from '@/core/tasks';
import type { TrialDesign } from '@/core/tasks/task';
import type { Db } from '@/platform/database';

/** Where the loading of the demo stands in this bank. */
export interface DemoLoad {
  accountId: string;
  name: string;
  loaded: boolean;
  /** Whether anybody signed in, or was invited, since: then there may be work of theirs. */
  usedSince: boolean;
}

export async function findDemoLoad(db: Db): Promise<DemoLoad | null> {
  const [row] = await db.rows<DemoLoad>(
    `SELECT account_id AS "accountId", account.name, loaded_at IS NOT NULL AS loaded,
       EXISTS (SELECT 1 FROM sign_in) OR EXISTS (SELECT 1 FROM invitation)
         OR (SELECT count(*) FROM account) > 1 AS "usedSince"
     FROM demo_load JOIN account ON account.id = account_id`,
  );
  return row ?? null;
}

export async function insertDemoLoad(db: Db, accountId: string, at: Date): Promise<void> {
  await db.rows('INSERT INTO demo_load (account_id, begun_at) VALUES ($1, $2)', [accountId, at]);
}

export async function markDemoLoaded(db: Db, at: Date): Promise<void> {
  await db.rows('UPDATE demo_load SET loaded_at = $1', [at]);
}

/** Takes back a load that was cut off: what belongs to its account, and nothing else. */
export async function undoDemoLoad(db: Db, accountId: string): Promise<void> {
  const sittings = `(SELECT sitting.id FROM sitting JOIN comparison ON comparison.id = comparison_id
    WHERE owner_id = $1)`;
  await db.rows('DELETE FROM joint_reading WHERE account_id = $1', [accountId]);
  await db.rows(`DELETE FROM answer WHERE sitting_id IN ${sittings}`, [accountId]);
  await db.rows(`DELETE FROM listener WHERE sitting_id IN ${sittings}`, [accountId]);
  await db.rows(`DELETE FROM sitting WHERE id IN ${sittings}`, [accountId]);
  await db.rows('DELETE FROM ear_session WHERE owner_id = $1', [accountId]);
  await db.rows('DELETE FROM ear_test WHERE owner_id = $1', [accountId]);
  await db.rows('DELETE FROM comparison WHERE owner_id = $1', [accountId]);
  await db.rows('DELETE FROM panelist WHERE owner_id = $1', [accountId]);
  await db.rows('DELETE FROM gear WHERE owner_id = $1', [accountId]);
  await db.rows('DELETE FROM account WHERE id = $1', [accountId]);
}

/** The listeners' link of the newest open sitting of an account; null where none is open. */
export async function openToken(db: Db, accountId: string): Promise<string | null> {
  const [row] = await db.rows<{ token: string }>(
    `SELECT token FROM sitting JOIN comparison ON comparison.id = comparison_id
     WHERE owner_id = $1 AND state = 'open' AND purpose = 'panel' ORDER BY opened_at DESC LIMIT 1`,
    [accountId],
  );
  return row?.token ?? null;
}

export interface DemoTrial extends TrialDesign {
  seat: number;
  position: number;
  part: number;
  task: TaskId;
  tiesAllowed: boolean;
  words: string[];
  chainIds: string[];
}

/** All trials of a sitting with their chains, for the simulated listeners. */
export async function trialsOf(db: Db, sittingId: string): Promise<DemoTrial[]> {
  return db.rows<DemoTrial>(
    `SELECT trial.seat, trial.position, trial.part, task, kind, right_slot AS "right", ties_allowed AS "tiesAllowed",
       words, jsonb_agg(jsonb_build_object('chain', 0, 'gainDb', gain_db) ORDER BY slot) AS slots,
       jsonb_agg(chain_id ORDER BY slot) AS "chainIds"
     FROM trial JOIN part ON part.sitting_id = trial.sitting_id AND part.number = trial.part
     JOIN trial_clip ON trial_clip.sitting_id = trial.sitting_id AND trial_clip.seat = trial.seat
       AND trial_clip.position = trial.position
     WHERE trial.sitting_id = $1
     GROUP BY trial.seat, trial.position, trial.part, task, kind, right_slot, ties_allowed, words
     ORDER BY trial.seat, trial.position`,
    [sittingId],
  );
}

/** What a seat chose in its pairs, by the place of the trial. */
export async function choicesOf(
  db: Db,
  sittingId: string,
  seat: number,
): Promise<Map<number, { listenerId: string; choice: string }>> {
  const rows = await db.rows<{ position: number; listenerId: string; choice: string }>(
    `SELECT position, listener_id AS "listenerId", answer->>'choice' AS choice FROM answer
     WHERE sitting_id = $1 AND seat = $2 AND answer ? 'choice'`,
    [sittingId, seat],
  );
  return new Map(rows.map(({ position, ...said }) => [position, said]));
}
