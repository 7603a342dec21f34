import type { MarkValue } from '@/core/decision/marks';
import type { Db, Tx } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import { SEEN } from '@/platform/sign-in/seen';
import type { MarkDraft, MemoryQuery } from './schema';

export interface MarkRow {
  chainId: string | null;
  gearId: string | null;
  criterion: string;
  accountId: string;
  by: string;
  value: MarkValue | null;
  remark: string;
  at: Date;
}

const MARK_COLUMNS = `chain_id AS "chainId", gear_id AS "gearId", criterion, account_id AS "accountId", account.name AS by, value, remark, at`;

/** The newest mark of each person, thing and criterion. */
export async function listMarks(
  db: Db,
  chainIds: readonly string[],
  gearIds: readonly string[],
): Promise<MarkRow[]> {
  return db.rows<MarkRow>(
    `SELECT DISTINCT ON (chain_id, gear_id, lower(criterion), account_id) ${MARK_COLUMNS}
     FROM mark JOIN account ON account.id = account_id
     WHERE chain_id = ANY ($1::uuid[]) OR gear_id = ANY ($2::uuid[])
     ORDER BY chain_id, gear_id, lower(criterion), account_id, at DESC, mark.id`,
    [chainIds, gearIds],
  );
}

/** Every mark there ever was, the oldest first. */
export async function listEveryMark(
  db: Db,
  chainIds: readonly string[],
  gearIds: readonly string[],
): Promise<MarkRow[]> {
  return db.rows<MarkRow>(
    `SELECT ${MARK_COLUMNS} FROM mark JOIN account ON account.id = account_id
     WHERE chain_id = ANY ($1::uuid[]) OR gear_id = ANY ($2::uuid[]) ORDER BY at, mark.id`,
    [chainIds, gearIds],
  );
}

export async function insertMarks(
  tx: Tx,
  accountId: string,
  marks: readonly MarkDraft[],
  at: Date,
): Promise<void> {
  await tx.rows(
    `INSERT INTO mark (chain_id, gear_id, criterion, account_id, value, remark, at)
     SELECT CASE "of" WHEN 'chain' THEN id END, CASE "of" WHEN 'gear' THEN id END, criterion, $1, value, remark, $2
     FROM jsonb_to_recordset($3::jsonb) AS given ("of" text, id uuid, criterion text, value text, remark text)`,
    [accountId, at, JSON.stringify(marks)],
  );
}

export interface WeighingRow {
  version: number;
  at: Date;
  by: string;
  content: unknown;
}

/** The newest weighing; null where nobody weighed. */
export async function findWeighing(db: Db, comparisonId: string): Promise<WeighingRow | null> {
  const [row] = await db.rows<WeighingRow>(
    `SELECT version, at, account.name AS by, content FROM weighing JOIN account ON account.id = account_id
     WHERE comparison_id = $1 ORDER BY version DESC LIMIT 1`,
    [comparisonId],
  );
  return row ?? null;
}

export async function insertWeighing(
  tx: Tx,
  comparisonId: string,
  accountId: string,
  { version, content, at }: { version: number; content: object; at: Date },
): Promise<void> {
  await tx.rows(
    `INSERT INTO weighing (comparison_id, version, account_id, at, content) VALUES ($1, $2, $3, $4, $5)`,
    [comparisonId, version, accountId, at, JSON.stringify(content)],
  );
}

export interface DecisionRow {
  version: number;
  at: Date;
  by: string;
  record: string;
  sha256: string;
}

/** All versions, the newest first. */
export async function listDecisions(db: Db, comparisonId: string): Promise<DecisionRow[]> {
  return db.rows<DecisionRow>(
    `SELECT version, at, account.name AS by, record, sha256 FROM decision
     JOIN account ON account.id = account_id WHERE comparison_id = $1 ORDER BY version DESC`,
    [comparisonId],
  );
}

export async function insertDecision(
  tx: Tx,
  comparisonId: string,
  accountId: string,
  decision: {
    version: number;
    at: Date;
    record: string;
    sha256: string;
    words: string;
    listenAgain: string | null;
  },
): Promise<void> {
  const { version, at, record, sha256, words, listenAgain } = decision;
  await tx.rows(
    `INSERT INTO decision (comparison_id, version, account_id, at, record, sha256, words, listen_again)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [comparisonId, version, accountId, at, record, sha256, words, listenAgain],
  );
}

const MEMORY_ORDERS: Record<MemoryQuery['sort'], string> = {
  newest: 'at DESC, comparison_id',
  oldest: 'at, comparison_id',
};
/** The newest decision of each comparison that somebody sees, as far as it holds a text. */
const DECIDED = `FROM comparison JOIN LATERAL (SELECT * FROM decision WHERE comparison_id = comparison.id
    ORDER BY version DESC LIMIT 1) AS newest ON true
  WHERE ${SEEN} AND deleted_at IS NULL AND ($2 = '' OR position(lower($2) IN lower(title || ' ' || words)) > 0)`;

export interface DecidedRow {
  comparisonId: string;
  title: string;
  at: Date;
  record: string;
  due: boolean;
}

/** One page of what was decided, as far as somebody sees it. */
export async function listDecided(
  db: Db,
  viewerId: string,
  { q, sort, page }: MemoryQuery,
): Promise<DecidedRow[]> {
  return db.rows<DecidedRow>(
    `SELECT comparison.id AS "comparisonId", title, at, record, coalesce(listen_again <= current_date, false) AS due
     ${DECIDED} ORDER BY ${MEMORY_ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [viewerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** In how many decisions a text was found, and how many there are. */
export async function countDecided(
  db: Db,
  viewerId: string,
  q: string,
): Promise<{ found: number; all: number }> {
  return one(
    db.rows<{ found: number; all: number }>(
      `SELECT (SELECT count(*)::int ${DECIDED}) AS found,
       (SELECT count(DISTINCT comparison_id)::int FROM decision JOIN comparison ON comparison.id = comparison_id
        WHERE ${SEEN} AND deleted_at IS NULL) AS all`,
      [viewerId, q],
    ),
  );
}

/** The newest decisions that are about a chain with an item; with the chains of it. */
export async function listDecidedWith(
  db: Db,
  viewerId: string,
  gearId: string,
  most: number,
): Promise<(DecidedRow & { chainIds: string[] })[]> {
  return db.rows(
    `SELECT comparison.id AS "comparisonId", title, at, record, coalesce(listen_again <= current_date, false) AS due, "chainIds"
     FROM comparison JOIN LATERAL (SELECT * FROM decision WHERE comparison_id = comparison.id
       ORDER BY version DESC LIMIT 1) AS newest ON true
     JOIN LATERAL (SELECT array_agg(DISTINCT chain_id::text) AS "chainIds"
       FROM jsonb_array_elements(record::jsonb -> 'uses') AS use
       JOIN chain_item ON chain_id::text = use ->> 'chainId' AND gear_id = $2) AS held ON "chainIds" IS NOT NULL
     WHERE ${SEEN} AND deleted_at IS NULL ORDER BY at DESC, comparison.id LIMIT $3`,
    [viewerId, gearId, most],
  );
}

/** Where many comparisons stand: how often something was decided, and whether it is time to listen again. */
export async function decisionCounts(
  db: Db,
  comparisonIds: readonly string[],
): Promise<{ comparisonId: string; versions: number; due: boolean }[]> {
  return db.rows(
    `SELECT comparison_id AS "comparisonId", max(version) AS versions,
       coalesce((array_agg(listen_again ORDER BY version DESC))[1] <= current_date, false) AS due
     FROM decision WHERE comparison_id = ANY ($1::uuid[]) GROUP BY comparison_id`,
    [comparisonIds],
  );
}

/** Null where nobody asked; its content is null while it is being worked out. */
export async function findForecast(
  db: Db,
  sittingId: string,
): Promise<{ content: unknown } | null> {
  const [row] = await db.rows<{ content: unknown }>(
    'SELECT content FROM panel_forecast WHERE sitting_id = $1',
    [sittingId],
  );
  return row ?? null;
}

/** @returns whether it is not being worked out already */
export async function insertForecast(tx: Tx, sittingId: string): Promise<boolean> {
  const rows = await tx.rows(
    `INSERT INTO panel_forecast (sitting_id) VALUES ($1)
     ON CONFLICT (sitting_id) DO UPDATE SET content = NULL WHERE panel_forecast.content IS NOT NULL
     RETURNING sitting_id`,
    [sittingId],
  );
  return rows.length > 0;
}

export async function storeForecast(db: Db, sittingId: string, content: object): Promise<void> {
  await db.rows('UPDATE panel_forecast SET content = $2 WHERE sitting_id = $1', [
    sittingId,
    JSON.stringify(content),
  ]);
}

/** What could not be worked out can be asked for again. */
export async function dropForecast(tx: Tx, sittingId: string): Promise<void> {
  await tx.rows('DELETE FROM panel_forecast WHERE sitting_id = $1 AND content IS NULL', [
    sittingId,
  ]);
}
