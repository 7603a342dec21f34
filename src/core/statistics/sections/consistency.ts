import { z } from 'zod';
import { analyzeConsistency, type Consistency } from '../consistency';
import type { Of } from '../observation';
import { section } from './section';
import { count, orNull, p } from './shapes';

const schema: z.ZodType<Consistency> = z.object({
  listeners: count,
  decided: count,
  statistic: z.number(),
  draws: count,
  p,
});

/** Whether listeners agree with themselves, whatever they like; what was asked again counts. */
export const consistency = section({
  id: 'consistency',
  version: 1,
  schema: orNull(schema),
  select: (one): one is Of<'pair'> =>
    one.kind === 'pair' && (one.role === 'judged' || one.role === 'repeat'),
  empty: null,
  compute: (own) => ({ result: analyzeConsistency(own), warnings: [] }),
  headlineP: () => null,
  verdict: null,
  findings: () => null,
});
