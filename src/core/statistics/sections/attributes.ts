import { z } from 'zod';
import { analyzeAttributes, attributeFindings, type WordCounts } from '../attributes';
import { judged } from '../observation';
import { least } from '../claims';
import { ALPHA } from '../words';
import { section } from './section';
import { count, name, orNull, p } from './shapes';

const schema: z.ZodType<WordCounts[]> = z.array(
  z.object({
    word: name,
    listeners: count,
    cochranQ: orNull(z.number()),
    df: count,
    p: orNull(p),
    pHolm: orNull(p),
    counts: z.record(name, count),
  }),
);

/** Which words go with which chain. */
export const attributes = section({
  id: 'attributes',
  version: 1,
  schema,
  select: judged.ticks,
  empty: [],
  compute: (own) => analyzeAttributes(own),
  headlineP: ({ attributes: rows }) => least(rows.map(({ pHolm }) => pHolm)),
  verdict(own) {
    const rows = analyzeAttributes(own).result;
    return {
      p: least(rows.map(({ pHolm }) => pHolm)),
      named: () =>
        rows.flatMap(({ word, pHolm }) => (pHolm !== null && pHolm < ALPHA ? [word] : [])),
    };
  },
  findings: ({ attributes: rows }, { claim }) => attributeFindings(rows, claim),
});
