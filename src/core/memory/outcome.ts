/** How a chain came out in one place, as far as the sealed analysis carries it. */
export const OUTCOMES = ['won', 'may be the best', 'behind', 'nothing shown'] as const;
export type Outcome = (typeof OUTCOMES)[number];

/**
 * @param claimed whether the analysis claims a preference in the place at all
 * @param leads whether the chain is among those that may be the best
 * @param leaders how many those are
 * @returns "nothing shown" too where a preference is claimed, but no chain can be told to be among the best
 */
export function outcomeOf({
  claimed,
  leads,
  leaders,
}: {
  claimed: boolean;
  leads: boolean;
  leaders: number;
}): Outcome {
  if (!claimed || leaders === 0) return 'nothing shown';
  if (!leads) return 'behind';
  return leaders === 1 ? 'won' : 'may be the best';
}
