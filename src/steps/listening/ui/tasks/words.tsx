import { keys } from './keys';
import { WordsBody } from './WordsBody';
import type { TaskUi } from './task-ui';

export const words: TaskUi = {
  Body: WordsBody,
  keys: () =>
    keys([['1'], 'hear'], [['Tab'], 'next word'], [['space'], 'tick'], [['Enter'], 'confirm']),
  practice: 'Tap the slip to hear it. Then tick whatever fits.',
  ask: 'Now tick what fits.',
};
