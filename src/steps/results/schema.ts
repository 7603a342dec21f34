import type { SightedShift } from '@/core/statistics/sighted';
import { z } from 'zod';
import type { Results } from '@/core/statistics/results';
import { type Reading, READING_VERSION } from '@/core/statistics/reading';
import { bridgedShape, bridgeShape, readingShape } from '@/core/statistics/reading/shape';
import { type Together, TOGETHER_VERSION } from '@/core/statistics/reading/together';
import { READING, resultsShape } from '@/core/statistics/sections';
import { TASK_IDS } from '@/core/tasks';

const warning = z.object({
  code: z.string(),
  section: z.string(),
  message: z.string(),
  rows: z.array(z.int()).optional(),
});

/** Which sections in which versions; what differs is made anew. */
export const ANALYSIS = `${READING}, across ${READING_VERSION}, set aside 1`;

const partAnalysis = z.object({
  task: z.enum(TASK_IDS),
  /** Judged ones, and controls; learning is none. */
  answers: z.int(),
  results: resultsShape,
  warnings: z.array(warning),
});

/** What the worker made of a closed sitting; chains, listeners and sources by id. */
export const storedAnalysis = z.object({
  reading: z.literal(ANALYSIS),
  /** All parts set against each other. */
  across: readingShape,
  /** What each chain was made of and cost when it was read. */
  made: z.array(
    z.tuple([
      z.string(),
      z.object({ microphone: z.string(), preamp: z.string(), price: z.number().nullable() }),
    ]),
  ),
  parts: z.array(partAnalysis),
  /** Whom the sealed rule sets aside, and the same without them; null where it sets nobody aside. */
  without: z
    .object({
      aside: z.array(z.object({ listener: z.string(), grounds: z.array(z.string()) })),
      across: readingShape,
      parts: z.array(partAnalysis),
    })
    .nullable(),
});
export type StoredAnalysis = z.infer<typeof storedAnalysis>;
export type PartAnalysis = StoredAnalysis['parts'][number];

/** The analysis that lies in a store; null where there is none, or an older version made it. */
export function readStored(analysis: unknown): StoredAnalysis | null {
  return storedAnalysis.safeParse(analysis).data ?? null;
}

/** Puts names in place of ids, as values and as keys. */
export function named<T extends Results | PartAnalysis | Reading | Together | SightedShift>(
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

/** What was read of several sittings, as it is kept; chains and sittings by id. */
export const storedTogether = z.object({
  version: z.literal(TOGETHER_VERSION),
  listeners: z.int(),
  bridge: bridgeShape,
  each: z.array(
    z.object({
      sitting: z.string(),
      pair: z.array(bridgedShape).nullable(),
      rating: z.array(bridgedShape).nullable(),
    }),
  ),
});

/** Which closed sittings are read together, and why. */
export const togetherOrder = z.object({
  sittingIds: z
    .array(z.uuid())
    .min(2, 'Choose at least two sittings.')
    .max(20, 'At most 20 sittings are read together.')
    .refine((ids) => new Set(ids).size === ids.length, 'Each sitting counts once.'),
  referenceChainId: z.uuid('Choose the chain that they are set against.'),
  reason: z
    .string()
    .trim()
    .min(1, 'Say why these sittings belong together; it is kept with them.')
    .max(500, 'Keep the reason under 500 characters.'),
});
export type TogetherOrder = z.infer<typeof togetherOrder>;
