import type { Db, Tx } from '../database';
import { LIST_PAGE } from '../list-query';
import { one } from '../one';
import type { Entry } from './chain';
import type { EventQuery } from './schema';

/** Holds the log of a studio until the transaction ends, so that two never write the same number. @returns its last entry */
export async function lastEntry(
  tx: Tx,
  studioId: string,
): Promise<{ n: number; sha256: string } | null> {
  await tx.rows(`SELECT pg_advisory_xact_lock(hashtextextended('event ' || $1, 0))`, [studioId]);
  const [row] = await tx.rows<{ n: number; sha256: string }>(
    'SELECT n::int, sha256 FROM event WHERE studio_id = $1 ORDER BY n DESC LIMIT 1',
    [studioId],
  );
  return row ?? null;
}

export async function insertEntry(
  tx: Tx,
  studioId: string,
  { n, record, sha256 }: Entry,
  { action, at }: { action: string; at: Date },
): Promise<void> {
  await tx.rows(
    'INSERT INTO event (studio_id, n, at, action, record, sha256) VALUES ($1, $2, $3, $4, $5, $6)',
    [studioId, n, at, action, record, sha256],
  );
}

const FOUND = `FROM event WHERE studio_id = $1 AND ($2 = '' OR action = $2) AND ($3 = '' OR
  position(lower($3) IN lower(concat_ws(' ', record::jsonb ->> 'by', record::jsonb ->> 'about'))) > 0)`;

/** One page of a studio's log. */
export async function pageOfEvents(
  db: Db,
  studioId: string,
  { q, action, sort, page }: EventQuery,
): Promise<Entry[]> {
  return db.rows<Entry>(
    `SELECT n::int, record, sha256 ${FOUND} ORDER BY n ${sort === 'newest' ? 'DESC' : 'ASC'} LIMIT $4 OFFSET $5`,
    [studioId, action, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

export async function countEvents(
  db: Db,
  studioId: string,
  { q, action }: Pick<EventQuery, 'q' | 'action'>,
): Promise<{ found: number; all: number }> {
  return one(
    db.rows<{ found: number; all: number }>(
      `SELECT (SELECT count(*)::int ${FOUND}) AS found,
         (SELECT count(*)::int FROM event WHERE studio_id = $1) AS all`,
      [studioId, action, q],
    ),
  );
}

/** Entries in their order, so many after one. */
export async function entriesAfter(
  db: Db,
  studioId: string,
  after: number,
  most: number,
): Promise<Entry[]> {
  return db.rows<Entry>(
    'SELECT n::int, record, sha256 FROM event WHERE studio_id = $1 AND n > $2 ORDER BY n LIMIT $3',
    [studioId, after, most],
  );
}
