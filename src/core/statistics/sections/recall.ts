import { z } from 'zod';
import { judged } from '../observation';
import { analyzeRecall, recallFindings, type FromMemory } from '../recall';
import { section } from './section';
import { count, interval, orNull, p } from './shapes';

const schema: z.ZodType<FromMemory> = z.object({
  n: count,
  correct: count,
  proportion: p,
  pOneSided: p,
  ci95: interval,
});

/** Right answers with the other clip out of hearing. */
export const recall = section({
  id: 'recall',
  version: 1,
  schema: orNull(schema),
  select: judged.recall,
  empty: null,
  compute: (own) => ({ result: analyzeRecall(own), warnings: [] }),
  headlineP: ({ recall: result }) => result && result.pOneSided,
  verdict(own) {
    const { pOneSided } = analyzeRecall(own);
    return { p: own.length === 0 ? null : pOneSided, named: () => ['the two'] };
  },
  findings: ({ recall: result }, { claim }) => result && recallFindings(result, claim),
});
