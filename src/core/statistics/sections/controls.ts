import { z } from 'zod';
import { analyzeControls, type Controls, controlSentences, NO_CONTROLS } from '../controls';
import type { Observation } from '../observation';
import { section } from './section';
import { count, orNull, p } from './shapes';

const sides = orNull(
  z.object({
    n: count,
    one: count,
    other: count,
    neither: count,
    listenersOne: count,
    listenersOther: count,
    p: orNull(p),
  }),
);
const schema: z.ZodType<Controls> = z.object({
  self: sides,
  levelCatch: sides,
  repeats: orNull(z.object({ n: count, alike: count, byChance: p })),
  places: orNull(z.object({ n: count, apart: z.number(), scatter: z.number() })),
  hidden: orNull(z.object({ n: count, mean: z.number(), scale: z.string() })),
});

/** What the controls show, apart from every test. */
export const controls = section({
  id: 'controls',
  version: 2,
  schema,
  select: (one): one is Observation => one.kind === 'pair' || one.kind === 'rating',
  empty: NO_CONTROLS,
  compute: (own) => ({ result: analyzeControls(own), warnings: [] }),
  headlineP: () => null,
  verdict: null,
  findings: ({ controls: result }) => {
    const remarks = controlSentences(result);
    return remarks.length === 0 ? null : { headline: '', detail: '', remarks, limits: [] };
  },
});
