import { listenerMinutes, PART_S } from '@/core/design/time-budget';
import { TASKS } from '@/core/tasks';
import { clipsAsked, trialsAsked } from '@/core/tasks/task';
import {
  namesPairs,
  type PartAccount,
  type PartDraft,
  type SittingAccount,
  type SittingDraft,
} from './schema';

/** What a part's clips are, as far as the account needs it. */
export interface ClipFacts {
  chains: number;
  clipSeconds: number;
}

type Counted = Pick<PartDraft, 'task' | 'trials' | 'pair' | 'controls'>;

/** Trials of one listener with controls and learning, as the orders will make them. */
export const trialsOfPart = (part: Counted) => trialsAsked(TASKS[part.task], part);

/** Clips of one trial, those of controls included. */
export const clipsShown = ({ task, controls }: Counted, chains: number) =>
  clipsAsked(TASKS[task], controls, chains);

/** What is heard once more with names: pairs, of the first part that asks for them. */
function sightedSeconds(
  { sightedTrials, parts }: { sightedTrials: number; parts: readonly Counted[] },
  clips: readonly ClipFacts[],
): number {
  const at = parts.findIndex(namesPairs);
  if (sightedTrials === 0 || at < 0) return 0;
  return sightedTrials * TASKS[parts[at]!.task].seconds(clips[at]!.clipSeconds, 2);
}

/** Minutes and certainty of a plan. */
export function accountOf(
  plan: Pick<SittingDraft, 'seats' | 'sightedTrials'> & { parts: readonly Counted[] },
  /** Of each part, in order. */
  clips: readonly ClipFacts[],
): SittingAccount {
  const seconds = plan.parts.map((part, i) => {
    const { chains, clipSeconds } = clips[i]!;
    const shown = clipsShown(part, part.pair ? 2 : chains);
    return trialsOfPart(part) * TASKS[part.task].seconds(clipSeconds, shown);
  });
  const parts = plan.parts.map((part, i): PartAccount => ({
    trials: trialsOfPart(part),
    minutesEach: (seconds[i]! + PART_S) / 60,
    buys: TASKS[part.task].buys({
      ...part,
      seats: plan.seats,
      among: part.pair ? 2 : clips[i]!.chains,
    }),
  }));
  const sightedS = sightedSeconds(plan, clips);
  const minutesEach = listenerMinutes(sightedS > 0 ? [...seconds, sightedS] : seconds);
  const sightedMinutes = sightedS > 0 ? (sightedS + PART_S) / 60 : 0;
  return {
    parts,
    sightedMinutes,
    settlingMinutes:
      minutesEach - sightedMinutes - parts.reduce((sum, part) => sum + part.minutesEach, 0),
    minutesEach,
    minutesInAll: minutesEach * plan.seats,
  };
}
