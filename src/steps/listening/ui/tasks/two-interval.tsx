import { ChoiceBody } from './ChoiceBody';
import { choosing } from './keys';
import type { TaskUi } from './task-ui';

export const twoInterval: TaskUi = {
  Body: (props) => <ChoiceBody {...props} choose={(word) => `It is ${word}`} />,
  keys: (clips) => choosing(clips, false),
  practice:
    'Two versions of the cello phrase. Tap a slip to hear it; both run in step. Then choose either.',
  ask: 'Now choose.',
};
