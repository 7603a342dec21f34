import type { Answer } from '@/core/tasks/task';
import type { ListenerView } from '../../views';
import { TASK_UI } from './index';

type Part = ListenerView['part'];

function answerText(part: Part, words: readonly string[], answer: Answer): string {
  if ('choice' in answer) {
    const named = { first: words[0], second: words[1], tie: 'no preference' }[answer.choice];
    return `You choose: ${named}. There is no way back.`;
  }
  if ('slot' in answer) {
    const named = TASK_UI[part.task].meant?.(part, answer.slot) ?? words[answer.slot];
    return `You choose: ${named}. There is no way back.`;
  }
  if ('places' in answer) return 'All are placed. There is no way back.';
  if ('words' in answer) {
    const count = answer.words.length;
    return `${count === 0 ? 'No word' : count === 1 ? '1 word' : `${count} words`} ticked. There is no way back.`;
  }
  return 'Hear them as often as you like; afterwards one comes at a time.';
}

/** What is missing before the trial can be confirmed, or what will be kept. */
export function hintOf(
  part: Part,
  words: readonly string[],
  heard: readonly boolean[],
  answer: Answer | null,
): string {
  const unheard = words.filter((_, i) => !heard[i]);
  if (unheard.length > 3) {
    return unheard.length === words.length
      ? `Hear all ${unheard.length} first.`
      : `Hear the other ${unheard.length} first.`;
  }
  if (unheard.length > 0) return `Hear ${unheard.join(' and ')} first.`;
  if (answer) return answerText(part, words, answer);
  return TASK_UI[part.task].ask;
}
