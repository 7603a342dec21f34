import { z } from 'zod';
import { uuid } from '@/steps/comparisons/schema';

const MOST_LINES = 2000;

/** What was done at the stand; the entry with the later clock counts. */
export const logEntries = z.object({
  entries: z
    .array(
      z.object({
        lineId: uuid,
        done: z.boolean(),
        gainDb: z
          .number('The gain is a number.')
          .min(-60, 'Gain lies between -60 and 100 dB.')
          .max(100, 'Gain lies between -60 and 100 dB.')
          .nullable(),
        distanceM: z
          .number('The distance is a number.')
          .min(0, 'A distance cannot be negative.')
          .max(1000, 'The distance is at most 1000 m.')
          .nullable(),
        remark: z.string().trim().max(500, 'Keep the remark under 500 characters.'),
        writtenAt: z.iso.datetime(),
      }),
    )
    .max(MOST_LINES),
});
export type LogEntry = z.infer<typeof logEntries>['entries'][number];
