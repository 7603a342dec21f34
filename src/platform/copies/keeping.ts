import { z } from 'zod';

const upTo = (least: number, most: number) => {
  const said = `Write a whole number from ${least} to ${most}.`;
  return z.int(said).min(least, said).max(most, said);
};

/** How many nights, weeks and months are kept; always the last night. */
export const keptDraft = z.object({ days: upTo(1, 60), weeks: upTo(0, 60), months: upTo(0, 120) });
export type Kept = z.infer<typeof keptDraft>;

/** Where nobody said otherwise: the newest of each of the last seven days, four weeks and twelve months. */
export const KEPT: Kept = { days: 7, weeks: 4, months: 12 };

const DAY_MS = 24 * 3600 * 1000;
/** At this hour of the machine's clock the night's copy is due. */
const NIGHT_HOUR = 3;
/** After a copy that failed another is tried so much later. */
const AGAIN_AFTER_MS = 3600 * 1000;
/** A copy is brought back for trial so often. */
const TRIAL_EVERY_MS = 7 * DAY_MS;

const dayOf = (at: Date) => Math.floor(at.getTime() / DAY_MS);
/** Weeks of the calendar, from Monday on: a week counted back from now would never let its newest grow old. */
const weekOf = (at: Date) => Math.floor((dayOf(at) + 3) / 7);
const monthOf = (at: Date) => 12 * at.getUTCFullYear() + at.getUTCMonth();

/**
 * Which of a row of copies may go: of each day, week and month that counts the newest stays, and the newest of all.
 * The calendar is that of universal time.
 */
export function toThin<T extends { madeAt: Date }>(
  copies: readonly T[],
  now: Date,
  { days, weeks, months }: Kept,
): T[] {
  const newestFirst = [...copies].sort((x, y) => y.madeAt.getTime() - x.madeAt.getTime());
  const stay = new Set<T>(newestFirst.slice(0, 1));
  const keepOneEach = (count: number, ago: (madeAt: Date) => number) => {
    for (let i = 0; i < count; i++) {
      const newest = newestFirst.find(({ madeAt }) => ago(madeAt) === i);
      if (newest) stay.add(newest);
    }
  };
  keepOneEach(days, (madeAt) => dayOf(now) - dayOf(madeAt));
  keepOneEach(weeks, (madeAt) => weekOf(now) - weekOf(madeAt));
  keepOneEach(months, (madeAt) => monthOf(now) - monthOf(madeAt));
  return newestFirst.filter((copy) => !stay.has(copy));
}

/** When the last night's copy was due, by the machine's own clock. */
export function lastDue(now: Date): Date {
  const due = new Date(now);
  due.setHours(NIGHT_HOUR, 0, 0, 0);
  if (due > now) due.setDate(due.getDate() - 1);
  return due;
}

/** What is known of the nights' copies, for whether one is due. */
export interface Nights {
  /** When the bank got its first account; null for one that nobody uses. */
  usedSince: Date | null;
  lastMadeAt: Date | null;
  lastFailedAt: Date | null;
}

/** Whether a night's copy is due: once a night, in a bank that was used by then; after a failure an hour later. */
export function isDue({ usedSince, lastMadeAt, lastFailedAt }: Nights, now: Date): boolean {
  const due = lastDue(now);
  if (usedSince === null || usedSince > due) return false;
  if (lastMadeAt !== null && lastMadeAt >= due) return false;
  return lastFailedAt === null || now.getTime() - lastFailedAt.getTime() >= AGAIN_AFTER_MS;
}

/** Whether a copy has to be tried out. @param lastTriedAt null where none ever was */
export function isTrialDue(lastTriedAt: Date | null, now: Date): boolean {
  return lastTriedAt === null || now.getTime() - lastTriedAt.getTime() >= TRIAL_EVERY_MS;
}

/** What an owner has to know of the copies; nothing where all is well. */
export function copyWarnings(
  known: Nights & {
    lastFailed: string | null;
    lastTriedAt: Date | null;
    lastTrialFailed: string | null;
    bytes: number | null;
    freeBytes: number | null;
    sameDisk: boolean;
  },
  now: Date,
): string[] {
  const { usedSince, lastMadeAt, lastFailedAt, lastFailed, bytes, freeBytes } = known;
  const said: string[] = [];
  const days = (since: Date) => Math.floor((now.getTime() - since.getTime()) / DAY_MS);
  const ageDays = lastMadeAt === null ? usedSince && days(usedSince) : days(lastMadeAt);
  if (ageDays !== null && ageDays >= 2) {
    said.push(
      lastMadeAt === null
        ? `There is no copy of this bank, which is ${ageDays} days old.`
        : `The newest copy is ${ageDays} days old.`,
    );
  }
  if (lastFailed !== null && (lastMadeAt === null || (lastFailedAt ?? 0) > lastMadeAt)) {
    said.push(`The last copy was not possible: ${lastFailed}`);
  }
  if (known.lastTrialFailed !== null) {
    said.push(
      `The last copy that was brought back for trial did not come back: ${known.lastTrialFailed}`,
    );
  } else if (known.lastTriedAt !== null && days(known.lastTriedAt) >= 14) {
    said.push(`No copy was brought back for trial for ${days(known.lastTriedAt)} days.`);
  }
  if (bytes !== null && freeBytes !== null && freeBytes < 2 * bytes) {
    said.push('The disk of the copies has less room than two more of them need.');
  }
  if (known.sameDisk && lastMadeAt !== null) {
    said.push(
      'Copies lie on the disk of the bank itself: where that breaks, both are gone. Name a folder of another disk in ZEITBANK_COPIES, or carry copies elsewhere.',
    );
  }
  return said;
}
