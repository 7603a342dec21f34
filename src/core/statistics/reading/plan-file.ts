import { z } from 'zod';
import { ResultsFileError } from '../csv-table';

const ranking = z
  .object({
    by: z.string().trim().min(1),
    role: z.enum(['engineer', 'listener']),
    winner: z.string().min(1).optional(),
    distinguishable: z.enum(['yes', 'no', 'perhaps']).optional(),
  })
  .refine(({ winner, distinguishable }) => winner !== undefined || distinguishable !== undefined);

const plan = z.object({
  reference: z.string().min(1).optional(),
  smallestPreference: z.number().gt(0.5).lt(1).optional(),
  smallestRating: z.number().gt(0).optional(),
  maxDistinguishers: z.number().gt(0).lt(1).optional(),
  rankings: z.array(ranking).optional(),
});

/** What was written down before anybody listened. */
export type ReadingPlan = z.infer<typeof plan>;
export type Ranking = z.infer<typeof ranking>;

/**
 * Reads a plan (docs/formats.md); unknown keys are ignored.
 * @throws ResultsFileError that names the key that does not fit
 */
export function parseReadingPlan(text: string): ReadingPlan {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new ResultsFileError('the plan is not JSON');
  }
  const read = plan.safeParse(json);
  if (read.success) return read.data;
  const issue = read.error.issues[0]!;
  const path = issue.path.map(String);
  const key = path[path.length - 1] ?? 'plan';
  // Of a ranking without any prediction the list is named, of others the key that does not fit.
  const named = /^\d+$/.test(key) ? 'rankings' : key;
  throw new ResultsFileError(
    path.length === 0 ? 'the plan is no object' : `the plan’s ${named} does not fit`,
  );
}
