import type { z } from 'zod';
import type { ChainMakes } from '../chains-file';
import type { Observation } from '../observation';
import type { Computed, Findings, Panel } from '../findings';
import type { Results } from '../results';

/** What a section is given beside its observations. */
export interface Asked {
  /** Of the bootstrap. */
  seed: number;
  made: ChainMakes | null;
}

/** What a headline rests on, worked out without the figures beside it: the same tests, for many panels in a row. */
export interface Verdict {
  p: number | null;
  /** Whom the finding names where it is claimed: the best chain, candidates above, pairs told apart, words. */
  named: () => string[];
}

/** One way of reading observations: figures, their shape, and what they say. */
export interface Section<Result> {
  id: string;
  /** Counted up whenever the same observations give other figures, so that what is stored is made anew. */
  version: number;
  schema: z.ZodType<Result>;
  /** @returns figures over what it selects; its empty form where that is nothing */
  read: (observations: readonly Observation[], asked: Asked) => Computed<Result>;
  /** p of the test that its headline rests on; null where no test can speak. */
  headlineP: (results: Results) => number | null;
  /** The same p from observations alone; null for what has no headline. */
  verdict: ((observations: readonly Observation[]) => Verdict) | null;
  /** What it says, with the other sections beside it; null where there is nothing to say. */
  findings: (results: Results, panel: Panel) => Findings | null;
}

export function section<Own extends Observation, Result>({
  select,
  empty,
  compute,
  verdict,
  ...rest
}: Pick<Section<Result>, 'id' | 'version' | 'schema' | 'headlineP' | 'findings'> & {
  verdict: ((own: readonly Own[]) => Verdict) | null;
  select: (one: Observation) => one is Own;
  empty: Result;
  compute: (own: readonly Own[], asked: Asked) => Computed<Result>;
}): Section<Result> {
  return {
    ...rest,
    verdict: verdict && ((observations) => verdict(observations.filter(select))),
    read(observations, asked) {
      const own = observations.filter(select);
      return own.length === 0 ? { result: empty, warnings: [] } : compute(own, asked);
    },
  };
}
