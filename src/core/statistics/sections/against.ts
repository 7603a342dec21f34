import { z } from 'zod';
import { againstFindings, analyzeAgainst, type Candidate } from '../against';
import type { Observation, Of } from '../observation';
import { least } from '../claims';
import { ALPHA } from '../words';
import { section } from './section';
import { count, interval, name, orNull, p } from './shapes';

const schema: z.ZodType<Candidate[]> = z.array(
  z.object({
    reference: name,
    chain: name,
    listeners: count,
    listenersWithHidden: count,
    difference: z.number(),
    ci95: orNull(interval),
    p: orNull(p),
    pHolm: orNull(p),
  }),
);

/** Candidates against a known reference. */
export const against = section({
  id: 'against',
  version: 1,
  schema,
  select: (one: Observation): one is Of<'rating'> =>
    one.kind === 'rating' && one.against !== '' && one.scale === '',
  empty: [],
  compute: (own) => ({ result: analyzeAgainst(own), warnings: [] }),
  headlineP: ({ against: rows }) => least(rows.map(({ pHolm }) => pHolm)),
  verdict(own) {
    const rows = analyzeAgainst(own);
    return {
      p: least(rows.map(({ pHolm }) => pHolm)),
      named: () =>
        rows.flatMap(({ chain, difference, pHolm }) =>
          difference > 0 && pHolm !== null && pHolm < ALPHA ? [chain] : [],
        ),
    };
  },
  findings: ({ against: rows }, { claim }) => againstFindings(rows, claim),
});
