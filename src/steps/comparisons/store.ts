import type { Db } from '@/platform/database';
import {
  type Brief,
  brief as briefShape,
  type Comparison,
  type ComparisonDraft,
  LIST_PAGE,
  type ListedComparison,
  type ListQuery,
  type Passage,
} from './schema';

/** The first passage is the comparison's own; further ones stand beside it. */
const FIRST_PASSAGE = 'FROM passage WHERE comparison_id = comparison.id ORDER BY position LIMIT 1';
const COLUMNS = `id, title, question, source_name AS "sourceName",
  (SELECT name ${FIRST_PASSAGE}) AS "passageName", version, simulated, brief`;

export async function insertComparison(
  db: Db,
  ownerId: string,
  draft: ComparisonDraft,
  simulated: boolean,
  at: Date,
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO comparison (owner_id, title, question, source_name, simulated, created_at)
     VALUES ($1, $2, $3, $4, $5, $6) RETURNING id`,
    [ownerId, draft.title, draft.question, draft.sourceName, simulated, at],
  );
  await insertPassage(db, id, { name: draft.passageName, sourceName: null });
  return id;
}

export async function findComparison(
  db: Db,
  id: string,
  ownerId: string,
): Promise<Comparison | null> {
  const [row] = await db.rows<Comparison>(
    `SELECT ${COLUMNS} FROM comparison WHERE id = $1 AND owner_id = $2 AND deleted_at IS NULL`,
    [id, ownerId],
  );
  return row ? { ...row, brief: briefShape.parse(row.brief) } : null;
}

/** For work that no engineer waits for. */
export async function briefOf(db: Db, id: string): Promise<{ sourceName: string; brief: Brief }> {
  const [row] = await db.rows<{ sourceName: string; brief: unknown }>(
    'SELECT source_name AS "sourceName", brief FROM comparison WHERE id = $1',
    [id],
  );
  return { sourceName: row.sourceName, brief: briefShape.parse(row.brief) };
}

/** How the list can be sorted; equal ones by id, so that none is passed over from page to page. */
const ORDERS: Record<ListQuery['sort'], string> = {
  newest: 'created_at DESC, id',
  oldest: 'created_at, id',
  title: 'lower(title), id',
};
const FOUND = `FROM comparison WHERE owner_id = $1 AND deleted_at IS NULL
  AND ($2 = '' OR position(lower($2) IN lower(title || ' ' || source_name || ' ' || question)) > 0)`;

/** One page of a studio's comparisons whose title, source or question holds a text. */
export async function listComparisons(
  db: Db,
  ownerId: string,
  { q, sort, page }: ListQuery,
): Promise<ListedComparison[]> {
  return db.rows<ListedComparison>(
    `SELECT id, title, source_name AS "sourceName", (SELECT name ${FIRST_PASSAGE}) AS "passageName",
       simulated, created_at AS "startedAt" ${FOUND} ORDER BY ${ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [ownerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** How many comparisons hold a text, and how many there are. */
export async function countComparisons(
  db: Db,
  ownerId: string,
  q: string,
): Promise<{ found: number; all: number }> {
  const [row] = await db.rows<{ found: number; all: number }>(
    `SELECT (SELECT count(*)::int ${FOUND}) AS found,
       (SELECT count(*)::int FROM comparison WHERE owner_id = $1 AND deleted_at IS NULL) AS all`,
    [ownerId, q],
  );
  return row;
}

/** @returns whether the version was still the one the writer had seen */
export async function updateComparison(
  db: Db,
  id: string,
  draft: ComparisonDraft,
  brief: Brief,
  version: number,
): Promise<boolean> {
  const { title, question, sourceName, passageName } = draft;
  const rows = await db.rows(
    `UPDATE comparison SET title = $3, question = $4, source_name = $5, brief = $6,
       version = version + 1 WHERE id = $1 AND version = $2 RETURNING id`,
    [id, version, title, question, sourceName, JSON.stringify(brief)],
  );
  await db.rows(
    `UPDATE passage SET name = $2 WHERE comparison_id = $1 AND id =
       (SELECT id FROM passage WHERE comparison_id = $1 ORDER BY position LIMIT 1)`,
    [id, passageName],
  );
  return rows.length > 0;
}

const PASSAGE_COLUMNS = `id, source_name AS "sourceName", name, from_s AS "fromS", to_s AS "toS"`;

export async function listPassages(db: Db, comparisonId: string): Promise<Passage[]> {
  return db.rows<Passage>(
    `SELECT ${PASSAGE_COLUMNS} FROM passage WHERE comparison_id = $1 ORDER BY position, id`,
    [comparisonId],
  );
}

export async function insertPassage(
  db: Db,
  comparisonId: string,
  passage: { name: string; sourceName: string | null },
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO passage (comparison_id, position, name, source_name)
     VALUES ($1, (SELECT coalesce(max(position) + 1, 0) FROM passage WHERE comparison_id = $1), $2, $3)
     RETURNING id`,
    [comparisonId, passage.name, passage.sourceName],
  );
  return id;
}

export async function updatePassage(
  db: Db,
  comparisonId: string,
  { id, name, fromS, toS }: Pick<Passage, 'id' | 'name' | 'fromS' | 'toS'>,
): Promise<void> {
  await db.rows(
    'UPDATE passage SET name = $3, from_s = $4, to_s = $5 WHERE comparison_id = $1 AND id = $2',
    [comparisonId, id, name, fromS, toS],
  );
}

/** @returns whether it went: the first one and those that clips were made of stay */
export async function deletePassage(db: Db, comparisonId: string, id: string): Promise<boolean> {
  const rows = await db.rows(
    `DELETE FROM passage WHERE comparison_id = $1 AND id = $2
       AND EXISTS (SELECT 1 FROM passage other
         WHERE other.comparison_id = $1 AND other.position < passage.position)
       AND NOT EXISTS (SELECT 1 FROM clip_set WHERE passage_id = $2) RETURNING id`,
    [comparisonId, id],
  );
  return rows.length > 0;
}

/** Why a comparison cannot be deleted; null when it can. */
export async function standsAgainstDeleting(
  db: Db,
  id: string,
): Promise<{ answers: number; openSittings: number }> {
  const [row] = await db.rows<{ answers: number; openSittings: number }>(
    `SELECT (SELECT count(*) FROM answer JOIN sitting ON sitting.id = answer.sitting_id
       WHERE sitting.comparison_id = $1 AND NOT rehearsal) AS answers,
       (SELECT count(*) FROM sitting WHERE comparison_id = $1 AND state = 'open'
         AND NOT rehearsal) AS "openSittings"`,
    [id],
  );
  return row;
}

/** Marks as deleted, or takes that back. @returns whether it was there */
export async function markDeleted(
  db: Db,
  id: string,
  ownerId: string,
  at: Date | null,
): Promise<boolean> {
  const rows = await db.rows(
    'UPDATE comparison SET deleted_at = $3 WHERE id = $1 AND owner_id = $2 RETURNING id',
    [id, ownerId, at],
  );
  return rows.length > 0;
}

/**
 * Copies question and chains with their gear; no takes, clips, sittings, answers or prediction.
 * @returns the copy's id
 */
export async function copyComparison(db: Db, id: string, title: string, at: Date): Promise<string> {
  const [copy] = await db.rows<{ id: string }>(
    `INSERT INTO comparison (owner_id, title, question, source_name, simulated, brief, created_at)
     SELECT owner_id, $2, question, source_name, simulated,
       brief - 'prediction' - 'predictedAt', $3 FROM comparison WHERE id = $1 RETURNING id`,
    [id, title, at],
  );
  // Where a passage lies is said of takes, which a copy has none of.
  await db.rows(
    `INSERT INTO passage (comparison_id, position, source_name, name)
     SELECT $2, position, source_name, name FROM passage WHERE comparison_id = $1`,
    [id, copy.id],
  );
  // Blends point at a chain by its id, so old and new ids are kept side by side.
  const chains = await db.rows<{ old: string; new: string }>(
    `WITH fresh AS (
       SELECT chain.*, gen_random_uuid() AS new_id FROM chain
       WHERE comparison_id = $1 AND deleted_at IS NULL
     ), inserted AS (
       INSERT INTO chain (id, comparison_id, position, name, items, price_cents, distance_m, angle_deg, shape)
       SELECT new_id, $2, position, name, items, price_cents, distance_m, angle_deg,
         CASE WHEN shape ? 'otherChainId' THEN shape || jsonb_build_object(
           'otherChainId', coalesce(
             (SELECT f.new_id FROM fresh f WHERE f.id::text = fresh.shape->>'otherChainId'), new_id),
           'firstChainId',
             (SELECT f.new_id FROM fresh f WHERE f.id::text = fresh.shape->>'firstChainId'))
         ELSE shape END FROM fresh
     ) SELECT id AS old, new_id AS new FROM fresh`,
    [id, copy.id],
  );
  await db.rows(
    `INSERT INTO chain_item (chain_id, position, gear_id, settings)
     SELECT pair.new, chain_item.position, gear_id, settings
     FROM unnest($1::uuid[], $2::uuid[]) AS pair (old, new) JOIN chain_item ON chain_id = pair.old`,
    [chains.map((pair) => pair.old), chains.map((pair) => pair.new)],
  );
  return copy.id;
}
