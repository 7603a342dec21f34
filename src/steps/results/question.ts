import type { Ranking, ReadingPlan } from '@/core/statistics/reading/plan-file';
import type { TOLD_APART } from '@/core/design/told-apart';
import type { ListenerGuess, SealedQuestion } from '@/steps/sitting/schema';

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

/** What one person said beforehand; nothing where they said nothing. */
function rankingsOf(
  by: string,
  role: Ranking['role'],
  { favouriteChainId, toldApart }: ListenerGuess,
): Ranking[] {
  if (favouriteChainId === null && toldApart === null) return [];
  return [
    {
      by,
      role,
      ...(favouriteChainId !== null && { winner: favouriteChainId }),
      ...(toldApart !== null && { distinguishable: DISTINGUISHABLE[toldApart] }),
    },
  ];
}

/**
 * The sealed question and the panel's guesses as the reading across parts is asked; empty where a sitting was sealed
 * without a question and asked for none.
 */
export function readingPlanOf(
  question: SealedQuestion | undefined,
  guesses: readonly { listenerId: string; guess: ListenerGuess }[] = [],
): ReadingPlan {
  const rankings = [
    ...(question ? rankingsOf(question.prediction.by, 'engineer', question.prediction) : []),
    ...guesses.flatMap(({ listenerId, guess }) => rankingsOf(listenerId, 'listener', guess)),
  ];
  const smallest = question?.smallestSharePct ?? null;
  const hearers = question ? fewestHearers(question) : null;
  return {
    ...(smallest !== null && { smallestPreference: smallest / 100 }),
    ...(hearers !== null && { maxDistinguishers: hearers }),
    ...(rankings.length > 0 && { rankings }),
  };
}
