import { z } from 'zod';
import type { Results } from '@/core/statistics/results';
import { READING, resultsShape } from '@/core/statistics/sections';
import { TASK_IDS } from '@/core/tasks';

const warning = z.object({
  code: z.string(),
  section: z.string(),
  message: z.string(),
  rows: z.array(z.int()).optional(),
});

/** What the worker made of a closed sitting; chains and listeners by id. */
export const storedAnalysis = z.object({
  /** Which sections in which versions; what differs is made anew. */
  reading: z.literal(READING),
  parts: z.array(
    z.object({
      task: z.enum(TASK_IDS),
      /** Judged ones, and controls; learning is none. */
      answers: z.int(),
      results: resultsShape,
      warnings: z.array(warning),
    }),
  ),
});
export type StoredAnalysis = z.infer<typeof storedAnalysis>;
export type PartAnalysis = StoredAnalysis['parts'][number];

/** The analysis that lies in a store; null where there is none, or an older version made it. */
export function readStored(analysis: unknown): StoredAnalysis | null {
  return storedAnalysis.safeParse(analysis).data ?? null;
}

/** Puts names in place of ids, as values and as keys. */
export function named<T extends Results | PartAnalysis>(
  value: T,
  names: ReadonlyMap<string, string>,
): T {
  const nameOf = (text: string) => names.get(text) ?? text;
  const walk = (one: unknown): unknown => {
    if (typeof one === 'string') return nameOf(one);
    if (Array.isArray(one)) return one.map(walk);
    if (one === null || typeof one !== 'object') return one;
    return Object.fromEntries(Object.entries(one).map(([key, of]) => [nameOf(key), walk(of)]));
  };
  return walk(value) as T;
}
