import type { Db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import { SEEN } from '@/platform/sign-in/seen';
import type { ReportsQuery } from './schema';

/** A closed sitting whose results can be read. */
export interface ReportRow {
  sittingId: string;
  comparisonId: string;
  comparison: string;
  title: string;
  closedAt: Date;
}

const REPORTS = `sitting JOIN comparison ON comparison.id = comparison_id
  WHERE ${SEEN} AND deleted_at IS NULL AND state = 'closed' AND purpose = 'panel' AND analysis IS NOT NULL
    AND EXISTS (SELECT 1 FROM answer WHERE answer.sitting_id = sitting.id)`;
const HOLDS = `position(lower($2) IN lower(comparison.title || ' ' || sitting.title)) > 0`;
const ORDERS: Record<ReportsQuery['sort'], string> = {
  newest: 'closed_at DESC, sitting.id',
  oldest: 'closed_at, sitting.id',
};

/** A page of what panels answered and that was read, as far as somebody sees it. */
export async function listReports(
  db: Db,
  viewerId: string,
  { q, sort, page }: ReportsQuery,
): Promise<ReportRow[]> {
  return db.rows<ReportRow>(
    `SELECT sitting.id AS "sittingId", comparison.id AS "comparisonId", comparison.title AS comparison,
       sitting.title, closed_at AS "closedAt"
     FROM ${REPORTS} AND ${HOLDS} ORDER BY ${ORDERS[sort]} LIMIT $3 OFFSET $4`,
    [viewerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

export async function countReports(
  db: Db,
  viewerId: string,
  q: string,
): Promise<{ found: number; all: number }> {
  return one(
    db.rows<{ found: number; all: number }>(
      `SELECT (count(*) FILTER (WHERE ${HOLDS}))::int AS found, count(*)::int AS all FROM ${REPORTS}`,
      [viewerId, q],
    ),
  );
}
