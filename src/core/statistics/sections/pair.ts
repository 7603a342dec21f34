import { z } from 'zod';
import { judged } from '../observation';
import { analyzePairs, type PairAnalysis } from '../pair/analyze';
import { pairFindings, pairVerdict } from '../pair/findings';
import { section } from './section';
import { count, interval, name, orNull, p } from './shapes';

const schema: z.ZodType<PairAnalysis> = z.object({
  fit: z.object({
    method: z.enum(['ml', 'penalised', 'none']),
    priorSd: orNull(z.number()),
    seMethod: orNull(z.enum(['cluster-robust', 'model'])),
    df: orNull(count),
    logLikelihood: orNull(z.number()),
  }),
  overall: z.array(
    z.object({
      chain: name,
      logStrength: orNull(z.number()),
      se: orNull(z.number()),
      seModel: orNull(z.number()),
      ci95: orNull(interval),
      wins: count,
      losses: count,
      ties: count,
      separated: z.boolean(),
    }),
  ),
  tieParameter: orNull(z.number()),
  orderEffect: orNull(z.object({ estimate: z.number(), se: z.number(), p })),
  panelTest: orNull(
    z.object({
      statistic: z.number(),
      df: count,
      listeners: count,
      approximation: z.enum(['F', 'chi2']),
      p,
    }),
  ),
  lrTest: orNull(z.object({ chisq: z.number(), df: count, p })),
  headlineTest: orNull(z.literal('panelTest')),
  pairs: z.array(
    z.object({
      a: name,
      b: name,
      aWins: count,
      bWins: count,
      ties: count,
      pTwoSided: p,
      pHolm: p,
      listenersA: count,
      listenersB: count,
      listenersTied: count,
      pListener: p,
      pListenerHolm: p,
    }),
  ),
  circularTriads: z.array(
    z.object({
      listener: name,
      triads: count,
      decidedTriads: count,
      max: orNull(z.number()),
      zeta: orNull(z.number()),
    }),
  ),
  bootstrap: orNull(
    z.object({
      replicates: count,
      seed: z.int(),
      chains: z.array(z.object({ chain: name, se: z.number(), ci95: interval })),
    }),
  ),
});

/** Which of two: the model of Davidson, the panel test and the sign tests. */
export const pair = section({
  id: 'pair',
  version: 1,
  schema: schema.nullable(),
  select: judged.pair,
  empty: null,
  compute(own, { seed }) {
    const { analysis, warnings } = analyzePairs(own, seed);
    return { result: analysis, warnings };
  },
  headlineP: ({ pair: result }) => result?.panelTest?.p ?? null,
  verdict: (own) => pairVerdict(own),
  findings: ({ pair: result, best, consistency }, panel) =>
    result && pairFindings(result, { best: best.pair, consistency }, panel),
});
