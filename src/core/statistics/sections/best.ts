import { z } from 'zod';
import { type Best, bestOfPairs, bestOfRatings, type BestSet } from '../best';
import { judged, type Of, ofOneScale } from '../observation';
import { section } from './section';
import { count, name, orNull } from './shapes';

const set: z.ZodType<BestSet> = z.object({
  df: count,
  criticalValue: z.number(),
  margin: orNull(z.number()),
  chains: z.array(
    z.object({ chain: name, strength: z.number(), lower: z.number(), upper: z.number() }),
  ),
  notShownWorse: z.array(name),
  shownLevel: orNull(z.array(name)),
  winner: orNull(name),
});
/** Shape of who may be the best. */
export const bestShape: z.ZodType<Best> = z.object({ pair: orNull(set), rating: orNull(set) });

/** Those not shown worse than the best, and the winner where that is one. */
export const best = section({
  id: 'best',
  version: 1,
  schema: bestShape,
  select: (one): one is Of<'pair'> | Of<'rating'> => judged.pair(one) || judged.rating(one),
  empty: { pair: null, rating: null },
  compute: (own) => ({
    result: {
      pair: bestOfPairs(own.filter(judged.pair), null),
      rating: bestOfRatings(ofOneScale(own.filter(judged.rating)), null),
    },
    warnings: [],
  }),
  headlineP: () => null,
  verdict: null,
  findings: () => null,
});
