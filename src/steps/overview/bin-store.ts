import type { Db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import { SEEN, STUDIO } from '@/platform/sign-in/seen';
import type { BinQuery } from './schema';

/** Something that was removed: marked so, and erased nowhere. */
export interface BinRow {
  kind: 'comparison' | 'chain' | 'gear' | 'take' | 'source' | 'passage';
  id: string;
  name: string;
  /** Of what belongs to one, the comparison that it is of, which is not removed itself. */
  comparisonId: string | null;
  comparison: string;
  deletedAt: Date;
}

const LAID_IN = (kind: 'source' | 'passage') =>
  `UNION ALL SELECT '${kind}', removed.id, removed.name, comparison.id, comparison.title, removed.deleted_at
   FROM removed_${kind} AS removed JOIN comparison ON comparison.id = comparison_id AND comparison.deleted_at IS NULL
   WHERE ${SEEN} AND removed.deleted_at >= $2`;
const BIN = `(SELECT 'comparison' AS kind, id, title AS name, NULL::uuid AS "comparisonId", '' AS comparison, deleted_at AS "deletedAt"
   FROM comparison WHERE ${SEEN} AND deleted_at >= $2
   UNION ALL SELECT 'gear', id, name, NULL, '', deleted_at FROM gear WHERE owner_id = ${STUDIO} AND deleted_at >= $2
   UNION ALL SELECT 'chain', chain.id, chain.name, comparison.id, comparison.title, chain.deleted_at
   FROM chain JOIN comparison ON comparison.id = comparison_id AND comparison.deleted_at IS NULL
   WHERE ${SEEN} AND chain.deleted_at >= $2
   ${LAID_IN('source')} ${LAID_IN('passage')}
   UNION ALL SELECT 'take', removed_take.id, file_name, comparison.id, comparison.title, removed_take.deleted_at
   FROM removed_take JOIN comparison ON comparison.id = comparison_id AND comparison.deleted_at IS NULL
   WHERE ${SEEN} AND removed_take.deleted_at >= $2) AS bin`;
const HOLDS = `position(lower($3) IN lower(name || ' ' || comparison || ' ' || kind)) > 0`;
const ORDERS: Record<BinQuery['sort'], string> = {
  newest: '"deletedAt" DESC, kind, id',
  oldest: '"deletedAt", kind, id',
};

/** A page of what was removed since some day, as far as somebody sees it. */
export async function listBin(
  db: Db,
  viewerId: string,
  since: Date,
  { q, sort, page }: BinQuery,
): Promise<BinRow[]> {
  return db.rows<BinRow>(
    `SELECT * FROM ${BIN} WHERE ${HOLDS} ORDER BY ${ORDERS[sort]} LIMIT $4 OFFSET $5`,
    [viewerId, since, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

export async function countBin(
  db: Db,
  viewerId: string,
  since: Date,
  q: string,
): Promise<{ found: number; all: number }> {
  return one(
    db.rows<{ found: number; all: number }>(
      `SELECT (count(*) FILTER (WHERE ${HOLDS}))::int AS found, count(*)::int AS all FROM ${BIN}`,
      [viewerId, since, q],
    ),
  );
}
