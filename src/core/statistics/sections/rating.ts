import { z } from 'zod';
import { type Observation, type Of, ofOneScale } from '../observation';
import { analyzeRatings, type RatingAnalysis, ratingHeadlineP } from '../rating/analyze';
import { ratingFindings, ratingVerdict } from '../rating/findings';
import { section } from './section';
import { count, interval, name, orNull, p } from './shapes';

const schema: z.ZodType<RatingAnalysis> = z.object({
  chains: z.array(
    z.object({
      chain: name,
      n: count,
      mean: z.number(),
      sd: orNull(z.number()),
      adjustedMean: z.number(),
      se: orNull(z.number()),
      ci95: orNull(interval),
    }),
  ),
  mixedModel: orNull(
    z.object({
      cells: count,
      varListener: z.number(),
      varResidual: z.number(),
      fTest: z.object({
        F: z.number(),
        df1: count,
        df2: count,
        p,
        ggEpsilon: orNull(z.number()),
        pGG: orNull(p),
      }),
    }),
  ),
  friedman: orNull(
    z.object({
      listeners: count,
      chisq: z.number(),
      df: count,
      p,
      pF: p,
      kendallW: z.number(),
    }),
  ),
  headlineTest: orNull(z.enum(['friedman', 'mixedModel'])),
  posthoc: z.array(
    z.object({
      a: name,
      b: name,
      n: count,
      difference: orNull(z.number()),
      p: orNull(p),
      pHolm: orNull(p),
      pModel: orNull(p),
      pModelHolm: orNull(p),
    }),
  ),
  icc: orNull(
    z.object({
      listeners: count,
      chains: count,
      icc2_1: orNull(z.number()),
      icc2_k: orNull(z.number()),
      icc3_1: orNull(z.number()),
      icc3_k: orNull(z.number()),
    }),
  ),
  repeatability: z.array(
    z.object({
      listener: name,
      sdOfReplicates: z.number(),
      df: count,
      correlation: orNull(z.number()),
    }),
  ),
  factors: z.array(
    z.object({
      factor: z.enum(['microphone', 'preamp', 'microphone:preamp']),
      F: z.number(),
      df1: count,
      df2: count,
      p,
      partialEta2: z.number(),
    }),
  ),
});

const placed = (one: Observation): one is Of<'rating'> =>
  one.kind === 'rating' && (one.role === 'judged' || one.role === 'repeat');

/** Places on a line: means, mixed model, Friedman's test, pairs, agreement, repeatability, parts. */
export const rating = section({
  id: 'rating',
  version: 1,
  schema: schema.nullable(),
  select: placed,
  empty: null,
  compute(every, { made }) {
    const own = ofOneScale(every);
    const of = (role: Of<'rating'>['role']) => own.filter((one) => one.role === role);
    const ratings = of('judged');
    if (ratings.length === 0) return { result: null as RatingAnalysis | null, warnings: [] };
    const { analysis, warnings } = analyzeRatings(ratings, of('repeat'), made);
    if (own.length < every.length) {
      const message =
        'places on a line that runs otherwise are left out here; read their part alone';
      warnings.push({ code: 'other-scale', section: 'rating', message });
    }
    return { result: analysis, warnings };
  },
  headlineP: ({ rating: result }) => result && ratingHeadlineP(result),
  verdict: (every) => ratingVerdict(ofOneScale(every).filter(({ role }) => role === 'judged')),
  findings: ({ rating: result, best }, { said, claim }) =>
    result && ratingFindings(result, best.rating, claim, said ?? undefined),
});
