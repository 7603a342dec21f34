import type { Db } from '@/platform/database';
import type { Answering } from './schema';

/** A sitting as listening needs it: nothing that tells chains apart. */
export interface HeardSitting {
  id: string;
  comparisonId: string;
  clipSetId: string;
  state: 'draft' | 'open' | 'closed';
  title: string;
  prompt: string;
  tiesAllowed: boolean;
  simulated: boolean;
  trialsPerListener: number;
  seats: number;
  seal: string | null;
  clipSeconds: number;
}

const COLUMNS = `sitting.id, sitting.comparison_id AS "comparisonId", clip_set_id AS "clipSetId",
  sitting.state, title, prompt, ties_allowed AS "tiesAllowed", sitting.simulated,
  trials_per_listener AS "trialsPerListener", seats, seal,
  clip_set.passage_to_s - clip_set.passage_from_s AS "clipSeconds"`;

export async function findByToken(db: Db, token: string): Promise<HeardSitting | null> {
  const [row] = await db.rows<HeardSitting>(
    `SELECT ${COLUMNS} FROM sitting JOIN clip_set ON clip_set.id = clip_set_id WHERE token = $1`,
    [token],
  );
  return row ?? null;
}

/** Holds the sitting as it is until the end of the transaction: joining one by one, no answer after closing. */
export async function holdSitting(db: Db, id: string, how: 'join' | 'answer'): Promise<string> {
  const [{ state }] = await db.rows<{ state: string }>(
    `SELECT state FROM sitting WHERE id = $1 ${how === 'join' ? 'FOR UPDATE' : 'FOR SHARE'}`,
    [id],
  );
  return state;
}

export interface ListenerRow {
  id: string;
  seat: number;
  alias: string;
  stage: 'level' | 'practice' | 'trials';
}

export async function findListener(
  db: Db,
  sittingId: string,
  tokenHash: string,
): Promise<ListenerRow | null> {
  const [row] = await db.rows<ListenerRow>(
    'SELECT id, seat, alias, stage FROM listener WHERE sitting_id = $1 AND token_hash = $2',
    [sittingId, tokenHash],
  );
  return row ?? null;
}

export async function countListeners(db: Db, sittingId: string): Promise<number> {
  const [{ count }] = await db.rows<{ count: number }>(
    'SELECT count(*)::int AS count FROM listener WHERE sitting_id = $1',
    [sittingId],
  );
  return count;
}

export async function insertListener(
  db: Db,
  listener: {
    sittingId: string;
    seat: number;
    alias: string;
    tokenHash: string;
    playback: string;
    simulated: boolean;
  },
  at: Date,
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO listener (sitting_id, seat, alias, token_hash, playback, simulated, consented_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id`,
    [
      listener.sittingId,
      listener.seat,
      listener.alias,
      listener.tokenHash,
      listener.playback,
      listener.simulated,
      at,
    ],
  );
  return id;
}

export async function setStage(db: Db, listenerId: string, stage: string): Promise<void> {
  await db.rows('UPDATE listener SET stage = $2 WHERE id = $1', [listenerId, stage]);
}

export async function countAnswers(db: Db, listenerId: string): Promise<number> {
  const [{ count }] = await db.rows<{ count: number }>(
    'SELECT count(*)::int AS count FROM answer WHERE listener_id = $1',
    [listenerId],
  );
  return count;
}

export interface HeardTrial {
  position: number;
  firstWord: string;
  secondWord: string;
  firstAddress: string;
  secondAddress: string;
}

/** The trials of a seat at these positions; words and addresses only. */
export async function trialsAt(
  db: Db,
  sittingId: string,
  seat: number,
  from: number,
  to: number,
): Promise<HeardTrial[]> {
  return db.rows<HeardTrial>(
    `SELECT position, first_word AS "firstWord", second_word AS "secondWord",
       first_address AS "firstAddress", second_address AS "secondAddress"
     FROM trial WHERE sitting_id = $1 AND seat = $2 AND position BETWEEN $3 AND $4 ORDER BY position`,
    [sittingId, seat, from, to],
  );
}

export interface ClipSource {
  audioId: number;
  seed: number;
  levelLufs: number;
}

/** The clip behind an address, if it belongs to one of these positions of the seat. */
export async function clipAt(
  db: Db,
  sittingId: string,
  seat: number,
  address: string,
  from: number,
  to: number,
): Promise<ClipSource | null> {
  const [row] = await db.rows<ClipSource>(
    `SELECT master_audio_id AS "audioId",
       CASE WHEN first_address = $3 THEN first_seed ELSE second_seed END AS seed,
       CASE WHEN clip_set.method = 'loudness' THEN (clip_set.facts->>'targetLufs')::float8
         ELSE after_lufs END AS "levelLufs"
     FROM trial
     JOIN clip ON clip.clip_set_id = trial.clip_set_id AND clip.chain_id =
       CASE WHEN first_address = $3 THEN first_chain_id ELSE second_chain_id END
     JOIN clip_set ON clip_set.id = trial.clip_set_id
     WHERE sitting_id = $1 AND seat = $2 AND (first_address = $3 OR second_address = $3)
       AND position BETWEEN $4 AND $5`,
    [sittingId, seat, address, from, to],
  );
  return row ?? null;
}

export async function settlingClipAt(
  db: Db,
  clipSetId: string,
  variant: number,
): Promise<number | null> {
  const [row] = await db.rows<{ id: number }>(
    'SELECT master_audio_id AS id FROM settling_clip WHERE clip_set_id = $1 AND variant = $2',
    [clipSetId, variant],
  );
  return row?.id ?? null;
}

/** @returns whether this answer was new */
export async function insertAnswer(
  db: Db,
  place: { listenerId: string; sittingId: string; seat: number },
  answer: Answering,
  at: Date,
): Promise<boolean> {
  const rows = await db.rows(
    `INSERT INTO answer (listener_id, sitting_id, seat, position, choice, idempotency_key,
       first_heard_s, second_heard_s, switches, duration_s, answered_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) ON CONFLICT DO NOTHING RETURNING position`,
    [
      place.listenerId,
      place.sittingId,
      place.seat,
      answer.position,
      answer.choice,
      answer.key,
      answer.firstHeardS,
      answer.secondHeardS,
      answer.switches,
      answer.durationS,
      at,
    ],
  );
  return rows.length > 0;
}

export async function answerKeyAt(
  db: Db,
  listenerId: string,
  position: number,
): Promise<string | null> {
  const [row] = await db.rows<{ key: string }>(
    'SELECT idempotency_key AS key FROM answer WHERE listener_id = $1 AND position = $2',
    [listenerId, position],
  );
  return row?.key ?? null;
}
