import { useFormatter, useTranslations } from 'use-intl';
import type { Answer } from '@/core/tasks/task';
import type { ListenerView } from '../../views';
import type { Say } from '../failure-text';
import { TASK_UI } from './index';

type Part = ListenerView['part'];

function answerText(t: Say, part: Part, words: readonly string[], answer: Answer): string {
  if ('choice' in answer) {
    const named = { first: words[0], second: words[1], tie: t('hint.noPreference') };
    return t('hint.chosen', { word: named[answer.choice] ?? '' });
  }
  if ('slot' in answer) {
    const named = TASK_UI[part.task].meant?.(part, answer.slot) ?? words[answer.slot];
    return t('hint.chosen', { word: named ?? '' });
  }
  if ('places' in answer) return t('hint.placed');
  if ('words' in answer) return t('hint.ticked', { count: answer.words.length });
  return t('hint.learned');
}

/** Says what is missing before the trial can be confirmed, or what will be kept. */
export function useHint() {
  const t = useTranslations('listening');
  const format = useFormatter();
  return (
    part: Part,
    words: readonly string[],
    heard: readonly boolean[],
    answer: Answer | null,
  ): string => {
    const unheard = words.filter((_, i) => !heard[i]);
    const count = unheard.length;
    if (count > 3) {
      return count === words.length
        ? t('hint.hearAll', { count })
        : t('hint.hearOthers', { count });
    }
    if (count > 0) return t('hint.hear', { words: format.list(unheard) });
    if (answer) return answerText(t, part, words, answer);
    return t(`hint.${TASK_UI[part.task].ask}`);
  };
}
