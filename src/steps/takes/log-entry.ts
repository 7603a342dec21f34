import { z } from 'zod';
import { uuid } from '@/steps/comparisons/schema';

const MOST_LINES = 2000;

const logEntry = z.object({
  lineId: uuid,
  done: z.boolean(),
  gainDb: z
    .number('The gain is a number.')
    .min(-60, 'Gain lies between -60 and 100 dB.')
    .max(100, 'Gain lies between -60 and 100 dB.')
    .nullable(),
  /** Where a knob without a scale stood; empty where the gain is in dB. Older pages send none. */
  knob: z.string().trim().max(20, 'Keep the knob’s position under 20 characters.').default(''),
  distanceM: z
    .number('The distance is a number.')
    .min(0, 'A distance cannot be negative.')
    .max(1000, 'The distance is at most 1000 m.')
    .nullable(),
  remark: z.string().trim().max(500, 'Keep the remark under 500 characters.'),
  /** By the device's own clock. */
  writtenAt: z.iso.datetime(),
});
export type LogEntry = z.infer<typeof logEntry>;

/** What was done at the stand, as a device sends it. */
export const logEntries = z.object({
  /** Made up once per browser; tells writers apart, nothing more. */
  device: z.uuid(),
  /** What the device's clock says now, so that a wrong one can be allowed for. */
  sentAt: z.iso.datetime(),
  entries: z.array(logEntry).max(MOST_LINES),
});
export type LogEntries = z.infer<typeof logEntries>;

/** What became of the lines that a device wrote. */
export const logReply = z.object({
  lines: z.array(
    z.object({
      id: uuid,
      writtenAt: z.string(),
      /** Another device wrote later; what was sent is kept beside it. */
      overruled: z.boolean(),
    }),
  ),
});
export type LogReply = z.infer<typeof logReply>;

/** What can be written in a line. */
export const written = logEntry.pick({
  done: true,
  gainDb: true,
  knob: true,
  distanceM: true,
  remark: true,
});
export type Written = z.infer<typeof written>;

/** What another device wrote in a line and lost. */
export const otherWriting = written.extend({ writtenAt: z.iso.datetime() });
export type OtherWriting = z.infer<typeof otherWriting>;

/** A line as far as its log goes. */
export interface LoggedLine extends Written {
  id: string;
  writtenAt: Date | null;
  writtenBy: string;
  other: OtherWriting | null;
}

const bare = ({ done, gainDb, knob, distanceM, remark }: Written): Written => ({
  done,
  gainDb,
  knob,
  distanceM,
  remark,
});
const alike = (a: Written, b: Written) => JSON.stringify(bare(a)) === JSON.stringify(bare(b));

/**
 * When an entry was written by the bank's clock: the device's clock is off by what its "now" differs, and nothing
 * is written later than it arrives.
 */
export function writtenAtHere(entry: string, sentAt: string, now: Date): Date {
  const ago = new Date(sentAt).getTime() - new Date(entry).getTime();
  return new Date(now.getTime() - Math.max(0, ago));
}

/**
 * What stands in a line after one more entry: the later writing wins. What another device wrote and lost is kept
 * beside it, whichever of the two that is, so that both can be seen.
 */
export function logged(
  line: LoggedLine,
  entry: LogEntry,
  { device, at }: { device: string; at: Date },
): LoggedLine {
  const wins = line.writtenAt === null || line.writtenAt <= at;
  const differs = line.writtenBy !== device && !alike(line, entry);
  const unwritten = line.writtenAt === null;
  if (!wins) {
    const other = { ...bare(entry), writtenAt: at.toISOString() };
    return differs ? { ...line, other } : line;
  }
  const other =
    differs && !unwritten
      ? { ...bare(line), writtenAt: (line.writtenAt ?? at).toISOString() }
      : line.other;
  return { ...line, ...bare(entry), writtenAt: at, writtenBy: device, other };
}
