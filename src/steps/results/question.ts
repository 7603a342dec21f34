import type { ReadingPlan } from '@/core/statistics/reading/plan-file';
import type { TOLD_APART } from '@/steps/comparisons/schema';
import type { SealedQuestion } from '@/steps/sitting/schema';

const DISTINGUISHABLE: Record<(typeof TOLD_APART)[number], 'yes' | 'perhaps' | 'no'> = {
  surely: 'yes',
  perhaps: 'perhaps',
  hardly: 'no',
};

/**
 * How many must hear a difference for the smallest share of choices to come about: those who hear it all choose the
 * same, the others guess, so s = m + (1 − m)/2. Null where the question names no share.
 * @returns a share, over 0 and under 1
 */
export function fewestHearers({ smallestSharePct: share }: SealedQuestion): number | null {
  return share === null ? null : (2 * share) / 100 - 1;
}

/** The sealed question as the reading across parts is asked; empty where a sitting was sealed without one. */
export function readingPlanOf(question: SealedQuestion | undefined): ReadingPlan {
  if (!question) return {};
  const { smallestSharePct, prediction } = question;
  const { by, favouriteChainId, toldApart } = prediction;
  const hearers = fewestHearers(question);
  const ranking = {
    by,
    role: 'engineer' as const,
    ...(favouriteChainId !== null && { winner: favouriteChainId }),
    ...(toldApart !== null && { distinguishable: DISTINGUISHABLE[toldApart] }),
  };
  return {
    ...(smallestSharePct !== null && { smallestPreference: smallestSharePct / 100 }),
    ...(hearers !== null && { maxDistinguishers: hearers }),
    ...(favouriteChainId !== null || toldApart !== null ? { rankings: [ranking] } : {}),
  };
}
