import type { PlannedStep } from '@/core/checks/programme';
import { CAPTURE_METHODS } from '@/core/checks/set/set-check';
import { LIST_PAGE } from '@/platform/list-query';
import { type Db, type Tx, violatesForeignKey } from '@/platform/database';
import { one } from '@/platform/one';
import { SEEN } from '@/platform/sign-in/seen';
import {
  type Brief,
  type Written,
  brief as briefShape,
  type Comparison,
  type ComparisonDraft,
  type ComparisonQuery,
  type ListedComparison,
  newPassage,
  type NewPassage,
  type Passage,
  type Source,
} from './schema';

/** The first passage is the comparison's own; further ones stand beside it. */
const FIRST_PASSAGE = 'FROM passage WHERE comparison_id = comparison.id ORDER BY position LIMIT 1';
/** The comparison's own source is the first one. */
const FIRST_SOURCE =
  '(SELECT name FROM source WHERE comparison_id = comparison.id AND position = 0)';
const COLUMNS = `id, title, question, ${FIRST_SOURCE} AS "sourceName",
  (SELECT name ${FIRST_PASSAGE}) AS "passageName", version, simulated, brief`;

export async function insertComparison(
  db: Db,
  ownerId: string,
  draft: ComparisonDraft,
  simulated: boolean,
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO comparison (owner_id, title, question, simulated, created_at)
     VALUES ($1, $2, $3, $4, $5) RETURNING id`,
      [ownerId, draft.title, draft.question, simulated, at],
    ),
  );
  const own = { name: draft.sourceName, capture: CAPTURE_METHODS[0], passages: '' };
  const sourceId = await insertSource(db, id, own, 0);
  const passage = newPassage.parse({ name: draft.passageName });
  await insertPassage(db, id, { ...passage, sourceId });
  return id;
}

export async function findComparison(
  db: Db,
  id: string,
  viewerId: string,
): Promise<Comparison | null> {
  const [row] = await db.rows<Comparison>(
    `SELECT ${COLUMNS} FROM comparison WHERE ${SEEN} AND id = $2 AND deleted_at IS NULL`,
    [viewerId, id],
  );
  return row ? { ...row, brief: briefShape.parse(row.brief) } : null;
}

/** For work that no engineer waits for. */
export async function briefOf(db: Db, id: string): Promise<Brief> {
  return (await writtenOf(db, id)).brief;
}

export async function writtenOf(db: Db, id: string): Promise<Written> {
  const { question, brief } = await one(
    db.rows<{ question: string; brief: unknown }>(
      'SELECT question, brief FROM comparison WHERE id = $1',
      [id],
    ),
  );
  return { question, brief: briefShape.parse(brief) };
}

/** The comparison's own comes first. */
export async function listSources(db: Db, comparisonId: string): Promise<Source[]> {
  return db.rows<Source>(
    'SELECT id, name, capture, passages FROM source WHERE comparison_id = $1 ORDER BY position',
    [comparisonId],
  );
}

export async function insertSource(
  db: Db,
  comparisonId: string,
  { name, capture, passages }: Omit<Source, 'id'>,
  position: number,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO source (comparison_id, position, name, capture, passages)
     VALUES ($1, $2, $3, $4, $5) RETURNING id`,
      [comparisonId, position, name, capture, passages],
    ),
  );
  return id;
}

export async function updateSource(
  db: Db,
  { id, name, capture, passages }: Source,
  position: number,
): Promise<void> {
  await db.rows(
    'UPDATE source SET name = $2, capture = $3, passages = $4, position = $5 WHERE id = $1',
    [id, name, capture, passages, position],
  );
}

/** @returns whether it went: one that takes, passages or the run sheet belong to stays */
/** Moves a source that nothing belongs to into the bin. @returns whether nothing does */
export async function binSource(tx: Tx, id: string, at: Date): Promise<boolean> {
  try {
    await tx.rows(
      `WITH gone AS (DELETE FROM source WHERE id = $1 RETURNING *)
       INSERT INTO removed_source (id, comparison_id, name, row, deleted_at)
       SELECT id, comparison_id, name, to_jsonb(gone), $2 FROM gone`,
      [id, at],
    );
    return true;
  } catch (error) {
    if (violatesForeignKey(error)) return false;
    throw error;
  }
}

/** How the list can be sorted; equal ones by id, so that none is passed over from page to page. */
const ORDERS: Record<ComparisonQuery['sort'], string> = {
  newest: 'created_at DESC, id',
  oldest: 'created_at, id',
  title: 'lower(title), id',
};
const FOUND = `FROM comparison WHERE ${SEEN} AND deleted_at IS NULL
  AND ($2 = '' OR position(lower($2) IN lower(title || ' ' || ${FIRST_SOURCE} || ' ' || question)) > 0)`;

/** One page of the comparisons that somebody sees whose title, source or question holds a text. */
export async function listComparisons(
  db: Db,
  viewerId: string,
  { q, sort, page }: ComparisonQuery,
): Promise<ListedComparison[]> {
  return db.rows<ListedComparison>(
    `SELECT id, title, ${FIRST_SOURCE} AS "sourceName", (SELECT name ${FIRST_PASSAGE}) AS "passageName",
       simulated, created_at AS "startedAt" ${FOUND} ORDER BY ${ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [viewerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** The first comparisons by name whose title holds a text. */
export async function comparisonsNamed(
  db: Db,
  viewerId: string,
  q: string,
): Promise<{ id: string; name: string }[]> {
  return db.rows(
    `SELECT id, title AS name FROM comparison WHERE ${SEEN} AND deleted_at IS NULL
       AND position(lower($2) IN lower(title)) > 0 ORDER BY lower(title), id LIMIT $3`,
    [viewerId, q, LIST_PAGE],
  );
}

/** Names of comparisons that somebody sees, by their ids. */
export async function titlesOf(
  db: Db,
  viewerId: string,
  ids: readonly string[],
): Promise<{ id: string; name: string }[]> {
  return db.rows(
    `SELECT id, title AS name FROM comparison WHERE ${SEEN} AND deleted_at IS NULL
       AND id = ANY ($2::uuid[]) ORDER BY lower(title), id`,
    [viewerId, ids],
  );
}

/** How many comparisons hold a text, and how many there are. */
export async function countComparisons(
  db: Db,
  viewerId: string,
  q: string,
): Promise<{ found: number; all: number }> {
  const row = await one(
    db.rows<{ found: number; all: number }>(
      `SELECT (SELECT count(*)::int ${FOUND}) AS found,
       (SELECT count(*)::int FROM comparison WHERE ${SEEN} AND deleted_at IS NULL) AS all`,
      [viewerId, q],
    ),
  );
  return row;
}

/** @returns whether the version was still the one the writer had seen */
export async function updateComparison(
  db: Db,
  id: string,
  draft: Omit<ComparisonDraft, 'sourceName'>,
  brief: Brief,
  version: number,
): Promise<boolean> {
  const { title, question, passageName } = draft;
  const rows = await db.rows(
    `UPDATE comparison SET title = $3, question = $4, brief = $5,
       version = version + 1 WHERE id = $1 AND version = $2 RETURNING id`,
    [id, version, title, question, JSON.stringify(brief)],
  );
  await db.rows(
    `UPDATE passage SET name = $2 WHERE comparison_id = $1 AND id =
       (SELECT id FROM passage WHERE comparison_id = $1 ORDER BY position LIMIT 1)`,
    [id, passageName],
  );
  return rows.length > 0;
}

export async function listPassages(db: Db, comparisonId: string): Promise<Passage[]> {
  return db.rows<Passage>(
    `SELECT passage.id, source_id AS "sourceId", source.name AS "sourceName", passage.name,
       programme, detail, from_s AS "fromS", to_s AS "toS"
     FROM passage JOIN source ON source.id = source_id WHERE passage.comparison_id = $1
     ORDER BY passage.position, passage.id`,
    [comparisonId],
  );
}

export async function insertPassage(
  db: Db,
  comparisonId: string,
  { name, sourceId, programme, detail }: NewPassage & { sourceId: string },
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO passage (comparison_id, position, name, source_id, programme, detail)
     VALUES ($1, (SELECT coalesce(max(position) + 1, 0) FROM passage WHERE comparison_id = $1), $2, $3, $4, $5)
     RETURNING id`,
      [comparisonId, name, sourceId, programme, detail],
    ),
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
/** Moves a passage into the bin, with what was placed in it; the first one, and those with clips, stay. */
export async function binPassage(
  tx: Tx,
  comparisonId: string,
  id: string,
  at: Date,
): Promise<boolean> {
  const rows = await tx.rows(
    `WITH gone AS (
       DELETE FROM passage WHERE comparison_id = $1 AND id = $2
         AND EXISTS (SELECT 1 FROM passage other
           WHERE other.comparison_id = $1 AND other.position < passage.position)
         AND NOT EXISTS (SELECT 1 FROM passage_use WHERE passage_id = $2) RETURNING *
     ) INSERT INTO removed_passage (id, comparison_id, name, row, placings, deleted_at)
     SELECT id, comparison_id, name, to_jsonb(gone),
       coalesce((SELECT jsonb_agg(placed.row) FROM passage_placing AS placed WHERE passage_id = $2), '[]'), $3
     FROM gone RETURNING id`,
    [comparisonId, id, at],
  );
  return rows.length > 0;
}

/** Puts a source back, behind the others. @returns whether it lay in the bin */
export async function unbinSource(tx: Tx, comparisonId: string, id: string): Promise<boolean> {
  const rows = await tx.rows(
    `WITH back AS (DELETE FROM removed_source WHERE comparison_id = $1 AND id = $2 RETURNING row)
     INSERT INTO source SELECT (jsonb_populate_record(NULL::source, row || jsonb_build_object('position',
         (SELECT coalesce(max(position), -1) + 1 FROM source WHERE comparison_id = $1)))).* FROM back
     RETURNING id`,
    [comparisonId, id],
  );
  return rows.length > 0;
}

/**
 * Puts a passage back, behind the others; of a source that is gone it comes to the first.
 * @returns what was placed in it; null where it does not lie in the bin
 */
export async function unbinPassage(
  tx: Tx,
  comparisonId: string,
  id: string,
): Promise<{ placings: unknown } | null> {
  const [row] = await tx.rows<{ placings: unknown }>(
    `WITH back AS (DELETE FROM removed_passage WHERE comparison_id = $1 AND id = $2 RETURNING row, placings),
     put AS (INSERT INTO passage SELECT (jsonb_populate_record(NULL::passage, row || jsonb_build_object(
         'position', (SELECT coalesce(max(position), -1) + 1 FROM passage WHERE comparison_id = $1),
         'source_id', coalesce((SELECT id FROM source WHERE id = (row->>'source_id')::uuid),
           (SELECT id FROM source WHERE source.comparison_id = $1 ORDER BY position LIMIT 1))))).* FROM back)
     SELECT placings FROM back`,
    [comparisonId, id],
  );
  return row ?? null;
}

/** Why a comparison cannot be deleted; null when it can. */
export async function standsAgainstDeleting(
  db: Db,
  id: string,
): Promise<{ answers: number; openSittings: number }> {
  const [row] = await db.rows<{ answers: number; openSittings: number }>(
    `SELECT answers, open_sittings AS "openSittings" FROM comparison_paid WHERE comparison_id = $1`,
    [id],
  );
  return row ?? { answers: 0, openSittings: 0 };
}

/** Marks as deleted, or takes that back. @returns whether it was there */
export async function markDeleted(
  db: Db,
  id: string,
  viewerId: string,
  at: Date | null,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE comparison SET deleted_at = $3 WHERE ${SEEN} AND id = $2 RETURNING id`,
    [viewerId, id, at],
  );
  return rows.length > 0;
}

/**
 * Copies a question with its sources and passages, without the prediction.
 * @returns the copy's id
 */
export async function copyQuestion(db: Db, id: string, title: string, at: Date): Promise<string> {
  const copy = await one(
    db.rows<{ id: string }>(
      `INSERT INTO comparison (owner_id, title, question, simulated, brief, programme, created_at)
     SELECT owner_id, $2, question, simulated,
       brief - 'prediction' - 'predictedAt', programme, $3 FROM comparison WHERE id = $1 RETURNING id`,
      [id, title, at],
    ),
  );
  // Where a passage lies is said of takes, which a copy has none of.
  await db.rows(
    `WITH fresh AS (
       SELECT id AS old, gen_random_uuid() AS new, position, name, capture, passages
       FROM source WHERE comparison_id = $1
     ), inserted AS (
       INSERT INTO source (id, comparison_id, position, name, capture, passages)
       SELECT new, $2, position, name, capture, passages FROM fresh
     ) INSERT INTO passage (comparison_id, position, source_id, name, programme, detail)
     SELECT $2, passage.position, fresh.new, passage.name, programme, detail
     FROM passage JOIN fresh ON fresh.old = source_id WHERE comparison_id = $1`,
    [id, copy.id],
  );
  return copy.id;
}

/** Marks the passages of a copy where those of the other comparison lie; its takes come along. */
export async function layAlike(db: Db, from: string, to: string): Promise<void> {
  await db.rows(
    `UPDATE passage SET from_s = old.from_s, to_s = old.to_s FROM passage AS old
     WHERE passage.comparison_id = $2 AND old.comparison_id = $1 AND old.position = passage.position`,
    [from, to],
  );
}

/** The test programme as it is planned, as it was stored; nothing where none was. */
export async function storedProgramme(db: Db, id: string): Promise<unknown> {
  const [row] = await db.rows<{ programme: unknown }>(
    'SELECT programme FROM comparison WHERE id = $1',
    [id],
  );
  return row?.programme ?? [];
}

export async function setProgramme(
  db: Db,
  id: string,
  programme: readonly PlannedStep[],
): Promise<void> {
  await db.rows('UPDATE comparison SET programme = $2 WHERE id = $1', [
    id,
    JSON.stringify(programme),
  ]);
}

export async function setReferenceChain(db: Db, id: string, chainId: string | null): Promise<void> {
  await db.rows('UPDATE comparison SET reference_chain_id = $2 WHERE id = $1', [id, chainId]);
}
