import type { Db } from '@/platform/database';
import type { Sitting, SittingCounts, SittingDraft } from './schema';

const COLUMNS = `id, clip_set_id AS "clipSetId", state, title, prompt, ties_allowed AS "tiesAllowed",
  trials_per_listener AS "trialsPerListener", seats, code_mode AS "codeMode", token, seal, simulated,
  opened_at AS "openedAt", closed_at AS "closedAt"`;

export async function listSittings(db: Db, comparisonId: string): Promise<Sitting[]> {
  return db.rows<Sitting>(
    `SELECT ${COLUMNS} FROM sitting WHERE comparison_id = $1 ORDER BY created_at DESC`,
    [comparisonId],
  );
}

/** A sitting, locked until the end of the transaction. */
export async function lockSitting(
  db: Db,
  id: string,
): Promise<(Sitting & { comparisonId: string }) | null> {
  const [row] = await db.rows<Sitting & { comparisonId: string }>(
    `SELECT ${COLUMNS}, comparison_id AS "comparisonId" FROM sitting WHERE id = $1 FOR UPDATE`,
    [id],
  );
  return row ?? null;
}

export async function insertSitting(
  db: Db,
  ids: { comparisonId: string; clipSetId: string; token: string },
  draft: SittingDraft,
  simulated: boolean,
  at: Date,
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO sitting (comparison_id, clip_set_id, token, title, prompt, ties_allowed,
       trials_per_listener, seats, code_mode, simulated, created_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) RETURNING id`,
    [
      ids.comparisonId,
      ids.clipSetId,
      ids.token,
      draft.title,
      draft.prompt,
      draft.tiesAllowed,
      draft.trialsPerListener,
      draft.seats,
      draft.codeMode,
      simulated,
      at,
    ],
  );
  return id;
}

export async function updateSitting(
  db: Db,
  id: string,
  draft: SittingDraft,
  clipSetId: string,
): Promise<void> {
  await db.rows(
    `UPDATE sitting SET title = $2, prompt = $3, ties_allowed = $4, trials_per_listener = $5,
       seats = $6, code_mode = $7, clip_set_id = $8 WHERE id = $1`,
    [
      id,
      draft.title,
      draft.prompt,
      draft.tiesAllowed,
      draft.trialsPerListener,
      draft.seats,
      draft.codeMode,
      clipSetId,
    ],
  );
}

export interface KeyChain {
  id: string;
  name: string;
  clipSha256: string;
}

export async function chainsOfSet(db: Db, clipSetId: string): Promise<KeyChain[]> {
  return db.rows<KeyChain>(
    `SELECT chain.id, chain.name, audio.sha256 AS "clipSha256" FROM clip
     JOIN chain ON chain.id = clip.chain_id JOIN audio ON audio.id = clip.master_audio_id
     WHERE clip.clip_set_id = $1 ORDER BY chain.position`,
    [clipSetId],
  );
}

export interface TrialRow {
  seat: number;
  position: number;
  firstChainId: string;
  secondChainId: string;
  firstWord: string;
  secondWord: string;
  firstAddress: string;
  secondAddress: string;
  firstSeed: number;
  secondSeed: number;
}

export async function insertTrials(
  db: Db,
  sitting: { id: string; clipSetId: string },
  trials: readonly TrialRow[],
): Promise<void> {
  const column = <K extends keyof TrialRow>(name: K) => trials.map((trial) => trial[name]);
  await db.rows(
    `INSERT INTO trial (sitting_id, clip_set_id, seat, position, first_chain_id, second_chain_id,
       first_word, second_word, first_address, second_address, first_seed, second_seed)
     SELECT $1::uuid, $2::uuid, * FROM unnest($3::int[], $4::int[], $5::uuid[], $6::uuid[], $7::text[],
       $8::text[], $9::text[], $10::text[], $11::bigint[], $12::bigint[])`,
    [
      sitting.id,
      sitting.clipSetId,
      column('seat'),
      column('position'),
      column('firstChainId'),
      column('secondChainId'),
      column('firstWord'),
      column('secondWord'),
      column('firstAddress'),
      column('secondAddress'),
      column('firstSeed'),
      column('secondSeed'),
    ],
  );
}

export async function markOpen(
  db: Db,
  id: string,
  seal: string,
  sealedKey: string,
  at: Date,
): Promise<void> {
  await db.rows(
    `UPDATE sitting SET state = 'open', seal = $2, sealed_key = $3, opened_at = $4 WHERE id = $1`,
    [id, seal, sealedKey, at],
  );
}

export async function markClosed(db: Db, id: string, at: Date): Promise<void> {
  await db.rows(`UPDATE sitting SET state = 'closed', closed_at = $2 WHERE id = $1`, [id, at]);
}

/** Whether a closed sitting has neither an analysis nor a job that will make one. */
export async function lacksAnalysis(db: Db, id: string): Promise<boolean> {
  const rows = await db.rows(
    `SELECT 1 FROM sitting WHERE id = $1 AND state = 'closed' AND analysis IS NULL AND NOT EXISTS
       (SELECT 1 FROM work WHERE subject_id = $1 AND work.state IN ('waiting', 'running'))`,
    [id],
  );
  return rows.length > 0;
}

export async function deleteDraft(db: Db, id: string): Promise<void> {
  await db.rows(`DELETE FROM sitting WHERE id = $1 AND state = 'draft'`, [id]);
}

export async function countsOf(db: Db, sittingId: string): Promise<SittingCounts> {
  const [row] = await db.rows<SittingCounts>(
    `SELECT count(*)::int AS joined,
       (count(*) FILTER (WHERE given >= trials_per_listener))::int AS finished,
       coalesce(sum(given), 0)::int AS answers
     FROM (SELECT listener.id, trials_per_listener,
             (SELECT count(*) FROM answer WHERE answer.listener_id = listener.id) AS given
           FROM listener JOIN sitting ON sitting.id = sitting_id WHERE sitting_id = $1) AS panel`,
    [sittingId],
  );
  return row;
}
