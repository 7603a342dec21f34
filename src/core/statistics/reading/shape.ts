import { z } from 'zod';
import { bestShape } from '../sections/best';
import { count, interval, name, orNull, p } from '../sections/shapes';
import type { Bridge } from './bridge';
import type { Reading } from '.';

const number = z.number();
const task = z.enum(['pair', 'rating']);
const place = { source: z.string(), context: z.string() };
const wald = { F: orNull(number), df1: orNull(count), df2: orNull(count), p: orNull(p) };
const factor = z.enum(['microphone', 'preamp', 'microphone:preamp']);
const share = orNull(p);
const effects = z.array(
  z.object({
    factor: z.enum(['microphone', 'preamp']),
    level: name,
    effect: number,
    se: number,
    ci95: interval,
  }),
);
const liking = {
  chains: z.array(z.object({ chain: name, value: number })),
  order: z.array(z.array(name)),
  agreement: orNull(number),
};
const bridged = { chain: name, difference: number, se: orNull(number), ci95: orNull(interval) };
/** One chain against the reference of its sittings. */
export const bridgedShape = z.object(bridged);

/** Shape of what is read of several sittings. */
export const bridgeShape: z.ZodType<Bridge> = z.object({
  reference: name,
  sittings: z.array(z.string()),
  rating: orNull(
    z.object({
      chains: z.array(z.object({ ...bridged, listeners: count })),
      unlinked: z.array(name),
      drift: z.array(
        z.object({
          first: z.string(),
          second: z.string(),
          listeners: count,
          difference: orNull(number),
          se: orNull(number),
          p: orNull(p),
          pHolm: orNull(p),
        }),
      ),
    }),
  ),
  pair: orNull(
    z.object({
      chains: z.array(bridgedShape),
      heterogeneity: orNull(z.object(wald)),
    }),
  ),
});

/** Shape of a reading, for what comes out of a store. */
export const readingShape: z.ZodType<Reading> = z.object({
  input: z.object({
    rowsUsed: count,
    rowsSkipped: z.object({ blank: count, missing: count, duplicate: count }),
    listeners: count,
    chains: count,
    sittings: count,
  }),
  cells: z.array(
    z.object({
      ...place,
      task,
      listeners: count,
      rows: count,
      method: z.enum(['ml', 'penalised', 'none', 'reml', 'means']),
      chains: z.array(
        z.object({
          chain: name,
          strength: orNull(number),
          se: orNull(number),
          ci95: orNull(interval),
        }),
      ),
      top: z.array(name),
    }),
  ),
  interactions: z.array(
    z.object({
      task,
      varies: z.enum(['source', 'context']),
      first: z.object(place),
      second: z.object(place),
      chains: count,
      listeners: count,
      statistic: orNull(number),
      df: orNull(count),
      p: orNull(p),
      pHolm: orNull(p),
      shifts: z.array(z.object({ chain: name, shift: number })),
      tauB: orNull(number),
      topChanged: orNull(z.boolean()),
    }),
  ),
  listeners: z.array(
    z.object({
      listener: name,
      rating: orNull(
        z.object({
          ...liking,
          repeatability: orNull(
            z.object({
              listener: name,
              sdOfReplicates: number,
              df: count,
              correlation: orNull(number),
            }),
          ),
        }),
      ),
      pair: orNull(
        z.object({
          ...liking,
          triads: orNull(
            z.object({
              listener: name,
              triads: count,
              decidedTriads: count,
              max: orNull(number),
              zeta: orNull(number),
            }),
          ),
        }),
      ),
    }),
  ),
  camps: orNull(
    z.object({
      task,
      listeners: count,
      chains: count,
      statistic: number,
      draws: count,
      p,
      axis: orNull(z.array(z.object({ chain: name, score: number }))),
      scores: orNull(z.array(z.object({ listener: name, score: number }))),
      groups: orNull(
        z.array(
          z.object({
            side: z.enum(['positive', 'negative']),
            listeners: z.array(name),
            chains: z.array(z.object({ chain: name, mean: number })),
            top: z.array(name),
          }),
        ),
      ),
    }),
  ),
  links: z.object({
    rating: orNull(
      z.object({
        factors: z.array(
          z.object({
            factor,
            F: number,
            df1: count,
            df2: count,
            p,
            partialEta2: number,
            share,
          }),
        ),
        effects,
      }),
    ),
    pair: orNull(
      z.object({
        listeners: count,
        factors: z.array(z.object({ ...wald, factor, share })),
        effects,
        lackOfFit: orNull(z.object(wald)),
      }),
    ),
  }),
  best: bestShape,
  verdicts: z.object({
    audibility: z.array(
      z.object({
        a: name,
        b: name,
        task: z.enum(['duo-trio', 'triangle', 'two-interval']),
        proportion: p,
        lower: p,
        upper: p,
        distinguishersLower: p,
        distinguishersUpper: p,
        pHolm: p,
        pSimilar: orNull(p),
        pSimilarHolm: orNull(p),
        verdict: z.enum(['heard', 'heard by few', 'no more than the limit', 'undecided']),
      }),
    ),
    preference: z.array(
      z.object({
        task,
        a: name,
        b: name,
        basis: z.enum(['contrast', 'listeners', 'none']),
        difference: orNull(number),
        se: orNull(number),
        df: orNull(number),
        pDifference: orNull(p),
        pDifferenceHolm: orNull(p),
        margin: orNull(number),
        pLevel: orNull(p),
        pLevelHolm: orNull(p),
        preferred: orNull(name),
        verdict: z.enum(['preferred', 'preferred but slight', 'level', 'undecided']),
      }),
    ),
  }),
  bridge: orNull(bridgeShape),
  value: orNull(
    z.object({
      task,
      draws: count,
      chains: z.array(
        z.object({
          chain: name,
          price: number,
          strength: number,
          onFrontier: z.boolean(),
          bestShare: p,
          frontierShare: p,
          expectedLoss: number,
          priceRatio: orNull(number),
        }),
      ),
      cheapestNotShownWorse: orNull(name),
    }),
  ),
  predictions: z.object({
    entries: z.array(
      z.object({
        by: name,
        role: z.enum(['engineer', 'listener']),
        about: z.enum(['winner', 'distinguishable']),
        said: name,
        result: orNull(z.string()),
        outcome: z.enum(['right', 'wrong', 'open']),
      }),
    ),
    roles: z.array(
      z.object({
        role: z.enum(['engineer', 'listener']),
        right: count,
        wrong: count,
        open: count,
        shareRight: orNull(p),
      }),
    ),
  }),
  warnings: z.array(
    z.object({
      code: z.string(),
      section: z.string(),
      message: z.string(),
      rows: z.array(z.int()).optional(),
    }),
  ),
});
