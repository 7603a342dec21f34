import { binSince } from '@/platform/bin';
import { db } from '@/platform/database';
import { pageWithin } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { type BinRow, countBin, listBin } from './bin-store';
import type { BinQuery } from './schema';

export interface Bin {
  query: BinQuery;
  rows: BinRow[];
  /** Removed things that hold the text that is looked for. */
  found: number;
  all: number;
}

/** What was removed in the last thirty days, and can be put back where it was. */
export async function binOf({ accountId }: SignedIn, query: BinQuery, now: Date): Promise<Bin> {
  const since = binSince(now);
  const counts = await countBin(db(), accountId, since, query.q);
  const shown = { ...query, page: pageWithin(query.page, counts.found) };
  return { query: shown, rows: await listBin(db(), accountId, since, shown), ...counts };
}
