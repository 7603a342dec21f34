import { db, transaction, type Tx } from '../database';
import type { Download } from '../download';
import { pageWithin } from '../list-query';
import { requireOwner } from '../sign-in/owner';
import type { SignedIn } from '../sign-in/store';
import type { Action } from './actions';
import { type Entry, entryAfter, type EventRecord, firstFault, readEntry } from './chain';
import type { EventQuery } from './schema';
import { countEvents, entriesAfter, insertEntry, lastEntry, pageOfEvents } from './store';

/** Read at a time when the whole log is gone through. */
const AT_ONCE = 2000;

type Who = Pick<SignedIn, 'accountId' | 'studioId' | 'name'>;

/**
 * Writes into the studio's log what somebody did. It is the last thing that a transaction does: from here on nobody
 * else of the studio writes into the log until that ends.
 */
export async function record(
  tx: Tx,
  { accountId, studioId, name: by }: Who,
  action: Action,
  { about = '', comparisonId = null }: { about?: string; comparisonId?: string | null },
  at: Date,
): Promise<void> {
  const told = { at: at.toISOString(), accountId, by, action, about, comparisonId };
  const entry = entryAfter(await lastEntry(tx, studioId), told);
  await insertEntry(tx, studioId, entry, { action, at });
}

/** The same for what changes nothing else, as what is taken out. */
export async function recordAlone(
  who: Who,
  action: Action,
  told: { about?: string; comparisonId?: string | null },
  at: Date,
): Promise<void> {
  await transaction((tx) => record(tx, who, action, told, at));
}

const READS = 'reads its log';

export interface EventList {
  query: EventQuery;
  lines: (EventRecord & { sha256: string })[];
  found: number;
  all: number;
  /** First entry that is not as it was written; null where the whole log holds. */
  fault: number | null;
}

async function faultIn(studioId: string): Promise<number | null> {
  let before: Entry | null = null;
  for (;;) {
    const entries: Entry[] = await entriesAfter(db(), studioId, before?.n ?? 0, AT_ONCE);
    const fault = firstFault(entries, before);
    if (fault !== null || entries.length < AT_ONCE) return fault;
    before = entries[entries.length - 1]!;
  }
}

/** A page of the studio's log; the whole of it is read through each time. */
export async function eventsOf(asking: SignedIn, query: EventQuery): Promise<EventList> {
  requireOwner(asking, READS);
  const { studioId } = asking;
  const counts = await countEvents(db(), studioId, query);
  const page = pageWithin(query.page, counts.found);
  const shown = { ...query, page };
  const entries = await pageOfEvents(db(), studioId, shown);
  return {
    query: shown,
    lines: entries.flatMap(({ record: text, sha256 }) => {
      const said = readEntry(text);
      return said ? [{ ...said, sha256 }] : [];
    }),
    ...counts,
    fault: await faultIn(studioId),
  };
}

/** The whole log as JSON Lines: each the text that was hashed, and its number. */
export async function eventsFile(asking: SignedIn): Promise<Download> {
  requireOwner(asking, READS);
  const lines: string[] = [];
  for (let after = 0; ;) {
    const entries = await entriesAfter(db(), asking.studioId, after, AT_ONCE);
    for (const { record: text, sha256 } of entries)
      lines.push(JSON.stringify({ record: text, sha256 }));
    if (entries.length < AT_ONCE) break;
    after = entries[entries.length - 1]!.n;
  }
  return {
    body: lines.map((line) => `${line}\n`).join(''),
    contentType: 'application/jsonl; charset=utf-8',
    fileName: 'log.jsonl',
  };
}
