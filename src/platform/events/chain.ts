import { createHash } from 'node:crypto';
import { z } from 'zod';
import { canonicalJson } from '@/core/design/seal';
import { ACTION_IDS } from './actions';

/** One entry as it is hashed: canonical JSON (RFC 8785), SHA-256. */
export const eventRecord = z.object({
  form: z.literal('zeitbank event 1'),
  n: z.int().min(1),
  at: z.string(),
  /** Account, and its name then. */
  accountId: z.string(),
  by: z.string(),
  action: z.enum(ACTION_IDS),
  /** What it was done to, in a few words; never a secret, nor the name of somebody who was forgotten. */
  about: z.string(),
  comparisonId: z.string().nullable(),
  /** Number of the entry before; null for the first. */
  before: z.string().nullable(),
});
export type EventRecord = z.infer<typeof eventRecord>;

export interface Entry {
  n: number;
  record: string;
  sha256: string;
}

/** What an entry says; null where its text is none, as somebody with a database console can make it. */
export function readEntry(record: string): EventRecord | null {
  try {
    return eventRecord.safeParse(JSON.parse(record)).data ?? null;
  } catch {
    return null;
  }
}

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');

/** The entry that follows another. */
export function entryAfter(
  before: { n: number; sha256: string } | null,
  told: Omit<EventRecord, 'form' | 'n' | 'before'>,
): Entry {
  const n = (before?.n ?? 0) + 1;
  const whole: EventRecord = {
    form: 'zeitbank event 1',
    n,
    before: before?.sha256 ?? null,
    ...told,
  };
  const record = canonicalJson(whole);
  return { n, record, sha256: hashOf(record) };
}

/**
 * Reads a chain through, in order.
 * @param before what stands before the first of them; null for the very first
 * @returns number of the first entry that is not as it was written, or stands where another was; null where all hold
 */
export function firstFault(
  entries: readonly Entry[],
  before: { n: number; sha256: string } | null,
): number | null {
  let last = before;
  for (const { n, record, sha256 } of entries) {
    const expected = (last?.n ?? 0) + 1;
    if (n !== expected || hashOf(record) !== sha256) return expected;
    const said = readEntry(record);
    if (!said || said.n !== n || said.before !== (last?.sha256 ?? null)) return expected;
    last = { n, sha256 };
  }
  return null;
}
