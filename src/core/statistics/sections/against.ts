import { z } from 'zod';
import { againstFindings, analyzeAgainst, type Candidate } from '../against';
import type { Observation, Of } from '../observation';
import { least } from '../claims';
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
  findings: ({ against: rows }, { claim }) => againstFindings(rows, claim),
});
