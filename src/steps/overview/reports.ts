import { db } from '@/platform/database';
import { pageWithin } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { countReports, listReports, type ReportRow } from './reports-store';
import type { ReportsQuery } from './schema';

export interface Reports {
  query: ReportsQuery;
  rows: ReportRow[];
  /** Of all, those whose titles hold what is looked for. */
  found: number;
  all: number;
}

/** Results that can be read: of everything a panel answered and that is closed. */
export async function reportsOf({ accountId }: SignedIn, query: ReportsQuery): Promise<Reports> {
  const counts = await countReports(db(), accountId, query.q);
  const shown = { ...query, page: pageWithin(query.page, counts.found) };
  return { query: shown, rows: await listReports(db(), accountId, shown), ...counts };
}
