import { z } from 'zod';

/**
 * What a plan says before anybody listens of whose answers a second reading leaves out, in whole percent; null where a
 * ground counts for nobody. The first reading is of everybody, whatever stands here.
 */
export const setAsideRule = z.object({
  /** Answered fewer than this share of their trials. */
  answeredPct: share(),
  /** Was hasty in more than this share of their answers. */
  hastyPct: share(),
  /** Answered fewer than this share of the repeated pairs alike. */
  alikePct: share(),
  /** Chose the louder of one recording twice in more than this share. */
  louderPct: share(),
});
export type SetAsideRule = z.infer<typeof setAsideRule>;

function share() {
  return z
    .int('Whole percent.')
    .min(1, 'From 1 to 99 %.')
    .max(99, 'From 1 to 99 %.')
    .nullable()
    .default(null);
}

export const NO_RULE: SetAsideRule = setAsideRule.parse({});

/** Repeats or louder twins that one listener must have answered before their share says something of them. */
export const FEWEST_CONTROLS = 4;

/** A rule in words: "who answered fewer than 50 % of the trials, or …"; empty where there is none. */
export function ruleWords({ answeredPct, hastyPct, alikePct, louderPct }: SetAsideRule): string {
  return [
    ...(answeredPct === null ? [] : [`answered fewer than ${answeredPct} % of their trials`]),
    ...(hastyPct === null ? [] : [`was hasty in more than ${hastyPct} % of their answers`]),
    ...(alikePct === null
      ? []
      : [
          `answered fewer than ${alikePct} % of the repeated pairs alike (from ${FEWEST_CONTROLS} on)`,
        ]),
    ...(louderPct === null
      ? []
      : [`chose the louder of two alike in more than ${louderPct} % (from ${FEWEST_CONTROLS} on)`]),
  ].join(', or ');
}
