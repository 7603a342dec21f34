import { TASKS } from '@/core/tasks';
import type { TaskId } from '@/core/tasks/task';
import { STEREO_WORDS, TONAL_WORDS } from '@/core/tasks/words';
import type { PartDraft } from '@/steps/sitting/schema';
import type { ListenableSet } from '@/steps/sitting/service';

/** Trials that one listener bears of a task with a right answer. */
const FORCED_TRIALS = 6;

/** A part as it is proposed: one round for each listener, with its controls. */
export function newPart(task: TaskId, set: ListenableSet): PartDraft {
  const { ofOnePair, prompt, round } = TASKS[task];
  const ids = set.chainNames.map(({ id }) => id);
  const other = ids.find((id) => id !== set.referenceChainId) ?? ids[1];
  const pair: PartDraft['pair'] = ofOnePair ? [set.referenceChainId, other] : null;
  const forced = ['duo-trio', 'triangle', 'two-interval', 'memory'].includes(task);
  return {
    task,
    clipSetId: set.id,
    prompt,
    tiesAllowed: task === 'pair',
    trials: forced ? Math.max(FORCED_TRIALS, Math.min(15, round(set.chains))) : round(set.chains),
    pair,
    controls: {
      self: task === 'pair' || task === 'reference',
      louder: task === 'pair',
      repeats: task === 'pair' || task === 'line' || task === 'reference' ? 1 : 0,
    },
    adaptive: false,
    words: task === 'words' ? [...(set.stereo ? STEREO_WORDS : []), ...TONAL_WORDS] : [],
  };
}
