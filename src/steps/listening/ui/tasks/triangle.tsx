import { ChoiceBody } from './ChoiceBody';
import { choosing } from './keys';
import type { TaskUi } from './task-ui';

export const triangle: TaskUi = {
  Body: (props) => <ChoiceBody {...props} choose={(word) => `${word} is the odd one`} />,
  keys: (clips) => choosing(clips, false),
  practice:
    'Three versions of the cello phrase, two of them the same. Tap a slip to hear it; all run in step. Then choose.',
  ask: 'Now choose.',
};
