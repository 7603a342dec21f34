import { detectableShare, judgementsNeeded } from '@/core/design/power';
import { listenerMinutes } from '@/core/design/time-budget';
import type { SittingAccount, SittingDraft } from './schema';

/** Minutes and certainty of a plan. */
export function accountOf(
  plan: Pick<SittingDraft, 'seats' | 'trialsPerListener'>,
  chains: number,
  clipSeconds: number,
): SittingAccount {
  const pairs = (chains * (chains - 1)) / 2;
  const minutesEach = listenerMinutes(plan.trialsPerListener, clipSeconds);
  const judgementsPerPair = (plan.seats * plan.trialsPerListener) / pairs;
  return {
    chains,
    pairs,
    clipSeconds,
    minutesEach,
    minutesInAll: minutesEach * plan.seats,
    judgementsPerPair,
    detectableShare: detectableShare(Math.floor(judgementsPerPair), pairs),
    neededFor70: judgementsNeeded(0.7, pairs),
  };
}
