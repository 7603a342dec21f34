'use client';

import { useMemo, useState } from 'react';
import { type LogEntry, logEntries } from '@/steps/takes/log-entry';
import { Outbox, type OutboxState } from '@/ui/outbox';
import { request } from '@/ui/request';
import { useOutbox } from '@/ui/useOutbox';
import { useStored } from '@/ui/useStored';
import { TAKES } from '@/steps/takes/endpoints';

const MOST_AT_ONCE = 500;
const MOST_KEPT = 2000;
const EMPTY: OutboxState<LogEntry> = { waiting: [], kept: 'on this device', standing: 'idle' };
const stored = logEntries.shape.entries;

export interface LogState extends OutboxState<LogEntry> {
  /** Taken by the bank, perhaps not yet in what the page was read from. */
  taken: readonly LogEntry[];
  /** Lines in which another device wrote later. */
  overruled: number;
}

function read(text: string): LogEntry[] {
  try {
    return stored.parse(JSON.parse(text));
  } catch {
    return [];
  }
}

/** Told apart from other devices by a number that means nothing else; a new one where none can be kept. */
function deviceId(): string {
  const name = 'zeitbank device';
  try {
    const kept = localStorage.getItem(name) ?? crypto.randomUUID();
    localStorage.setItem(name, kept);
    return kept;
  } catch {
    return crypto.randomUUID();
  }
}

/** What is written at the stand, on its way to the bank. */
export function useRunLog(comparisonId: string): {
  log: LogState;
  write: (entry: LogEntry) => void;
} {
  // On the device, so that a page that was kept and opens without a connection shows it too.
  const [takenText, changeTaken] = useStored(`zeitbank run sheet taken ${comparisonId}`);
  const taken = useMemo(() => read(takenText), [takenText]);
  const [overruled, setOverruled] = useState<ReadonlySet<string>>(new Set());
  const outbox = useMemo(() => {
    if (typeof window === 'undefined') return null;
    const device = deviceId();
    return new Outbox<LogEntry>({
      name: `zeitbank run sheet ${comparisonId}`,
      read: (kept) => stored.parse(kept),
      idOf: ({ lineId, writtenAt }) => `${lineId} ${writtenAt}`,
      replaces: (later, earlier) => later.lineId === earlier.lineId,
      atOnce: MOST_AT_ONCE,
      refused: 'keep',
      storage: () => window.localStorage,
      send: async (entries) => {
        const sentAt = new Date().toISOString();
        const reply = await request(
          TAKES.keepLog,
          { id: comparisonId },
          { device, sentAt, entries: [...entries] },
        );
        const sent = new Set(entries.map(({ lineId }) => lineId));
        const lost = reply.lines.filter(({ overruled }) => overruled).map(({ id }) => id);
        // From here on by the bank's clock, so that what others write later is seen.
        const kept = reply.lines.flatMap(({ id, writtenAt }) => {
          const own = entries.find(({ lineId }) => lineId === id);
          return own && !lost.includes(id) ? [{ ...own, writtenAt }] : [];
        });
        changeTaken((before) => {
          const others = read(before).filter(({ lineId }) => !sent.has(lineId));
          return JSON.stringify([...others, ...kept].slice(-MOST_KEPT));
        });
        setOverruled(
          (before) => new Set([...before].filter((id) => !sent.has(id)).concat(...lost)),
        );
      },
    });
  }, [comparisonId, changeTaken]);
  const state = useOutbox(outbox, EMPTY);
  return {
    log: { ...state, taken, overruled: overruled.size },
    write: (entry) => outbox?.put(entry),
  };
}
