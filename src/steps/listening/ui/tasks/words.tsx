import { KeyLine } from './keys';
import type { TaskUi } from './task-ui';
import { WordsBody } from './WordsBody';

export const words: TaskUi = {
  Body: WordsBody,
  Keys: () => (
    <KeyLine
      entries={[
        [['1'], 'hear'],
        [['Tab'], 'nextWord'],
        [['space'], 'tick'],
        [['Enter'], 'confirm'],
      ]}
    />
  ),
  ask: 'tick',
};
