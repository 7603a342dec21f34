import { z } from 'zod';
import { claimText } from '../claims';
import type { Findings, Panel, Warning } from '../findings';
import { ALPHA } from '../words';
import type { Observation } from '../observation';
import type { Results, SectionId } from '../results';
import { against } from './against';
import { attributes } from './attributes';
import { audibility } from './audibility';
import { best } from './best';
import { consistency } from './consistency';
import { controls } from './controls';
import { pair } from './pair';
import { rating } from './rating';
import { recall } from './recall';
import type { Asked, Section } from './section';

/** Every way of reading observations, in the order in which they are read. */
export const SECTIONS: { readonly [Id in SectionId]: Section<Results[Id]> } = {
  pair,
  rating,
  audibility,
  attributes,
  recall,
  against,
  best,
  consistency,
  controls,
};
const ALL = Object.values(SECTIONS) as Section<unknown>[];

/** Changes whenever some section gives other figures. */
export const READING = ALL.map(({ id, version }) => `${id} ${version}`).join(', ');

/** Shape of all results, for what comes out of a store. */
export const resultsShape = z.object(
  Object.fromEntries(ALL.map(({ id, schema }) => [id, schema])),
) as unknown as z.ZodType<Results>;

/**
 * What a part says by its own section. Where the primary part showed nothing, a part that would claim something by
 * itself is told without a claim.
 */
export function findingsOf(id: SectionId, results: Results, panel: Panel): Findings | null {
  const { open, p } = panel.claim;
  const said = SECTIONS[id].findings(results, panel);
  if (open || p === null || p >= ALPHA || !said) return said;
  return {
    ...said,
    headline: 'Nothing is claimed here, since the primary part showed nothing.',
    detail: `By itself this part has ${claimText(panel.claim)}; another panel could make it the primary one.`,
  };
}

/** Reads observations by every section. */
export function readAll(
  observations: readonly Observation[],
  asked: Asked,
): { results: Results; warnings: Warning[] } {
  const read = ALL.map((one) => ({ id: one.id, ...one.read(observations, asked) }));
  return {
    results: Object.fromEntries(read.map(({ id, result }) => [id, result])) as unknown as Results,
    warnings: read.flatMap(({ warnings }) => warnings),
  };
}
