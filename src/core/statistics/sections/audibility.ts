import { z } from 'zod';
import {
  analyzeAudibility,
  type Audibility,
  audibilityFindings,
  distinguishablePairs,
} from '../audibility';
import { judged } from '../observation';
import { least } from '../claims';
import { ALPHA } from '../words';
import { section } from './section';
import { count, interval, name, orNull, p } from './shapes';

const sensitivity = {
  n: count,
  correct: count,
  guess: p,
  proportion: p,
  pOneSided: p,
  ci95: interval,
  dPrime: z.number(),
  clipped: z.boolean(),
  dPrimeCi95: z.tuple([orNull(z.number()), orNull(z.number())]),
};
const schema: z.ZodType<Audibility[]> = z.array(
  z.object({
    a: name,
    b: name,
    task: z.enum(['duo-trio', 'triangle', 'two-interval']),
    ...sensitivity,
    pHolm: p,
    byListener: z.array(z.object({ listener: name, ...sensitivity })),
  }),
);

/** Whether two can be told apart: right answers against guessing. */
export const audibility = section({
  id: 'audibility',
  version: 1,
  schema,
  select: judged.forced,
  empty: [],
  compute: (own) => ({ result: analyzeAudibility(own), warnings: [] }),
  headlineP: ({ audibility: rows }) => least(rows.map(({ pHolm }) => pHolm)),
  verdict(own) {
    const rows = distinguishablePairs(own);
    return {
      p: least(rows.map(({ pHolm }) => pHolm)),
      named: () => rows.flatMap(({ a, b, pHolm }) => (pHolm < ALPHA ? [`${a} and ${b}`] : [])),
    };
  },
  findings: ({ audibility: rows }, { claim }) => audibilityFindings(rows, claim),
});
