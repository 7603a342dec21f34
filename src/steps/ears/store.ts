import type { Answered } from '@/core/ears/session';
import type { Db, Tx } from '@/platform/database';
import { SEEN } from '@/platform/sign-in/seen';
import type { EarAnswer, EarSound, SessionDraft, SoundDraft, TestDraft } from './schema';

/** Who trains: somebody with an account, or of the panel. */
export interface Trainee {
  ownerId: string;
  accountId: string | null;
  panelistId: string | null;
}

export interface SessionRow {
  id: string;
  skill: string;
  choices: Record<string, string>;
  amount: number | null;
  sound: EarSound;
  seed: number;
  begunAt: Date;
  endedAt: Date | null;
  answers: Answered[];
}

const SESSION = `SELECT id, skill, choices, amount, sound, seed::float8 AS seed, begun_at AS "begunAt", ended_at AS "endedAt",
    coalesce((SELECT jsonb_agg(jsonb_build_object('chosen', chosen, 'seconds', seconds, 'place', place) ORDER BY position)
      FROM ear_answer WHERE session_id = ear_session.id), '[]') AS answers
  FROM ear_session`;

/** Somebody's sessions, the newest first. */
export async function sessionsOf(
  db: Db,
  { accountId, panelistId }: Trainee,
  most: number,
): Promise<SessionRow[]> {
  // Each by its own index.
  return accountId === null
    ? db.rows<SessionRow>(`${SESSION} WHERE panelist_id = $1 ORDER BY begun_at DESC, id LIMIT $2`, [
        panelistId,
        most,
      ])
    : db.rows<SessionRow>(`${SESSION} WHERE account_id = $1 ORDER BY begun_at DESC, id LIMIT $2`, [
        accountId,
        most,
      ]);
}

export async function insertSession(
  tx: Tx,
  { ownerId, accountId, panelistId }: Trainee,
  { skill, choices, amount, sound }: SessionDraft,
  seed: number,
  at: Date,
): Promise<void> {
  await tx.rows(
    `INSERT INTO ear_session (owner_id, account_id, panelist_id, skill, choices, amount, sound, seed, begun_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [
      ownerId,
      accountId,
      panelistId,
      skill,
      JSON.stringify(choices),
      amount,
      JSON.stringify(sound),
      seed,
      at,
    ],
  );
}

/** Ends what somebody left open; its answers are kept. */
export async function endOpenSessions(tx: Tx, trainee: Trainee, at: Date): Promise<void> {
  await tx.rows(
    `UPDATE ear_session SET ended_at = $2 WHERE coalesce(account_id, panelist_id) = $1 AND ended_at IS NULL`,
    [trainee.accountId ?? trainee.panelistId, at],
  );
}

/** Somebody's own session, held against others until the transaction ends. */
export async function lockSession(
  tx: Tx,
  { accountId, panelistId }: Trainee,
  id: string,
): Promise<SessionRow | null> {
  const [row] = await tx.rows<SessionRow>(
    `${SESSION} WHERE id = $1 AND coalesce(account_id, panelist_id) = $2 FOR UPDATE`,
    [id, accountId ?? panelistId],
  );
  return row ?? null;
}

/** An answer, once: what came first stays. */
export async function insertEarAnswer(
  tx: Tx,
  { sessionId, position, chosen, seconds }: EarAnswer,
  place: number,
  at: Date,
): Promise<void> {
  await tx.rows(
    `INSERT INTO ear_answer (session_id, position, chosen, seconds, place, answered_at)
     VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT (session_id, position) DO NOTHING`,
    [sessionId, position, chosen, seconds, place, at],
  );
}

export async function endSession(tx: Tx, id: string, at: Date): Promise<void> {
  await tx.rows('UPDATE ear_session SET ended_at = $2 WHERE id = $1 AND ended_at IS NULL', [
    id,
    at,
  ]);
}

/** Whether a chain was matched in a set of a comparison that somebody sees. */
export async function hasClip(
  db: Db,
  viewerId: string,
  {
    comparisonId,
    clipSetId,
    chainId,
  }: { comparisonId: string; clipSetId: string; chainId: string },
): Promise<boolean> {
  const rows = await db.rows(
    `SELECT 1 FROM clip JOIN comparison ON comparison.id = clip.comparison_id
     WHERE ${SEEN} AND clip_set_id = $2 AND chain_id = $3 AND comparison.id = $4 AND deleted_at IS NULL`,
    [viewerId, clipSetId, chainId, comparisonId],
  );
  return rows.length > 0;
}

/** Names that would tell the panel what it hears: of a comparison's chains, and of the gear in them. */
export async function tellingNames(db: Db, comparisonId: string): Promise<string[]> {
  const rows = await db.rows<{ name: string }>(
    `SELECT name FROM chain WHERE comparison_id = $1
     UNION SELECT gear.name FROM chain_item JOIN chain ON chain.id = chain_id JOIN gear ON gear.id = gear_id
     WHERE chain.comparison_id = $1`,
    [comparisonId],
  );
  return rows.map(({ name }) => name);
}

export interface SetRow {
  comparisonId: string;
  clipSetId: string;
  comparison: string;
  source: string;
  passage: string;
  chains: { id: string; name: string }[];
}

/** Clips that somebody could train on: raw ones of the sets that were matched last. */
export async function matchedSets(db: Db, viewerId: string, most: number): Promise<SetRow[]> {
  return db.rows<SetRow>(
    `SELECT comparison.id AS "comparisonId", clip_set.id AS "clipSetId", comparison.title AS comparison,
       source.name AS source, passage.name AS passage,
       (SELECT jsonb_agg(jsonb_build_object('id', chain.id, 'name', chain.name) ORDER BY chain.position, chain.id)
        FROM clip JOIN chain ON chain.id = clip.chain_id WHERE clip.clip_set_id = clip_set.id) AS chains
     FROM clip_set JOIN comparison ON comparison.id = clip_set.comparison_id
       JOIN passage ON passage.id = clip_set.passage_id JOIN source ON source.id = passage.source_id
     WHERE ${SEEN} AND comparison.deleted_at IS NULL AND clip_set.state = 'ready'
       AND clip_set.context = 'raw' AND EXISTS (SELECT 1 FROM clip WHERE clip.clip_set_id = clip_set.id)
     ORDER BY clip_set.created_at DESC, clip_set.id LIMIT $2`,
    [viewerId, most],
  );
}

export interface GivenSound {
  id: string;
  title: string;
  /** While a sitting is open over its comparison it stays shut. */
  shut: boolean;
  audioId: number;
  /** Of the other of two chains that are to be learned. */
  otherAudioId: number | null;
}

/** Clips that the panel was given to train on. */
export async function givenSounds(db: Db, ownerId: string): Promise<GivenSound[]> {
  return db.rows<GivenSound>(
    `SELECT ear_sound.id, title, clip.master_audio_id AS "audioId", other.master_audio_id AS "otherAudioId",
       EXISTS (SELECT 1 FROM comparison_paid WHERE comparison_paid.comparison_id = clip.comparison_id
         AND open_sittings > 0) AS shut
     FROM ear_sound JOIN clip USING (clip_set_id, chain_id)
       LEFT JOIN clip AS other ON other.clip_set_id = ear_sound.clip_set_id AND other.chain_id = other_chain_id
     WHERE owner_id = $1 AND withdrawn_at IS NULL ORDER BY ear_sound.created_at, ear_sound.id`,
    [ownerId],
  );
}

export async function insertSound(
  db: Db,
  ownerId: string,
  { clipSetId, chainId, otherId, title }: SoundDraft,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO ear_sound (owner_id, clip_set_id, chain_id, other_chain_id, title, created_at)
     VALUES ($1, $2, $3, $4, $5, $6)`,
    [ownerId, clipSetId, chainId, otherId, title, at],
  );
}

export interface TestRow {
  id: string;
  skill: string;
  choices: Record<string, string>;
  amount: number;
}

export async function testsOf(db: Db, ownerId: string): Promise<TestRow[]> {
  return db.rows<TestRow>(
    `SELECT id, skill, choices, amount FROM ear_test WHERE owner_id = $1 AND withdrawn_at IS NULL
     ORDER BY created_at, id`,
    [ownerId],
  );
}

export async function insertTest(
  db: Db,
  ownerId: string,
  { skill, choices, amount }: TestDraft,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO ear_test (owner_id, skill, choices, amount, created_at) VALUES ($1, $2, $3, $4, $5)`,
    [ownerId, skill, JSON.stringify(choices), amount, at],
  );
}

/** Takes a sound or a test back from the panel; what was done with it stays. */
export async function withdraw(
  db: Db,
  table: 'ear_sound' | 'ear_test',
  ownerId: string,
  id: string,
  at: Date,
): Promise<boolean> {
  const statement = {
    ear_sound: `UPDATE ear_sound SET withdrawn_at = $3 WHERE owner_id = $1 AND id = $2 AND withdrawn_at IS NULL RETURNING id`,
    ear_test: `UPDATE ear_test SET withdrawn_at = $3 WHERE owner_id = $1 AND id = $2 AND withdrawn_at IS NULL RETURNING id`,
  }[table];
  return (await db.rows(statement, [ownerId, id, at])).length > 0;
}

/** Gives somebody of the panel a link in place of the one before. @returns whether there is such a person */
export async function putLink(
  db: Db,
  ownerId: string,
  panelistId: string,
  tokenHash: string,
  at: Date,
): Promise<boolean> {
  const rows = await db.rows(
    `INSERT INTO ear_link (panelist_id, token_hash, created_at)
     SELECT id, $3, $4 FROM panelist WHERE id = $2 AND owner_id = $1
     ON CONFLICT (panelist_id) DO UPDATE SET token_hash = $3, created_at = $4 RETURNING panelist_id`,
    [ownerId, panelistId, tokenHash, at],
  );
  return rows.length > 0;
}

export interface PanelTrainee extends Trainee {
  panelistId: string;
  alias: string;
  shares: boolean;
}

export async function traineeOf(db: Db, tokenHash: string): Promise<PanelTrainee | null> {
  const [row] = await db.rows<PanelTrainee>(
    `SELECT owner_id AS "ownerId", NULL AS "accountId", panelist.id AS "panelistId", alias, shares
     FROM ear_link JOIN panelist ON panelist.id = panelist_id WHERE token_hash = $1`,
    [tokenHash],
  );
  return row ?? null;
}

export async function setShares(db: Db, panelistId: string, shares: boolean): Promise<void> {
  await db.rows('UPDATE ear_link SET shares = $2 WHERE panelist_id = $1', [panelistId, shares]);
}

export interface PanelSession extends SessionRow {
  panelistId: string;
}

/** Ended sessions of those of the panel who let them be seen, the newest first. */
export async function agreedSessions(
  db: Db,
  ownerId: string,
  most: number,
): Promise<PanelSession[]> {
  return db.rows<PanelSession>(
    `SELECT own.*, session.panelist_id AS "panelistId" FROM ear_session AS session
       JOIN ear_link ON ear_link.panelist_id = session.panelist_id
       CROSS JOIN LATERAL (${SESSION} WHERE ear_session.id = session.id) AS own
     WHERE session.owner_id = $1 AND session.ended_at IS NOT NULL AND shares
     ORDER BY session.begun_at DESC, session.id LIMIT $2`,
    [ownerId, most],
  );
}

export interface SeatSession extends SessionRow {
  seat: number;
}

/** Ended sessions of the listeners of a sitting, the newest first: tests always, the rest where they agreed. */
export async function seatSessions(
  db: Db,
  sittingId: string,
  most: number,
): Promise<SeatSession[]> {
  return db.rows<SeatSession>(
    `SELECT own.*, seat FROM listener JOIN ear_link USING (panelist_id)
       JOIN ear_session AS session USING (panelist_id)
       CROSS JOIN LATERAL (${SESSION} WHERE ear_session.id = session.id) AS own
     WHERE listener.sitting_id = $1 AND session.ended_at IS NOT NULL AND (shares OR session.amount IS NOT NULL)
     ORDER BY session.begun_at DESC, session.id LIMIT $2`,
    [sittingId, most],
  );
}
