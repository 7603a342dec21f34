import { TASKS, type TaskId } from '@/core/tasks';
import type { PartDraft } from '@/steps/sitting/schema';
import type { ListenableSet } from '@/steps/sitting/service';

/** A part as it is proposed: one round for each listener, with its controls. */
export function newPart(task: TaskId, set: ListenableSet): PartDraft {
  const { ofOnePair, prompt, proposes, offers, tiesOffered } = TASKS[task];
  const ids = set.chainNames.map(({ id }) => id);
  const other = ids.find((id) => id !== set.referenceChainId) ?? ids[1]!;
  return {
    task,
    clipSetId: set.id,
    prompt,
    tiesAllowed: tiesOffered,
    pair: ofOnePair ? [set.referenceChainId, other] : null,
    controls: {
      self: Boolean(offers.self),
      levelCatch: Boolean(offers.levelCatch),
      repeats: offers.repeats ? 1 : 0,
    },
    adaptive: false,
    ...proposes(set),
  };
}
