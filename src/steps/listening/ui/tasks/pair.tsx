import { ChoiceBody } from './ChoiceBody';
import { choosing } from './keys';
import type { TaskUi } from './task-ui';

export const pair: TaskUi = {
  Body: (props) => <ChoiceBody {...props} liking choose={(word) => `${word} suits better`} />,
  keys: choosing,
  practice:
    'Two versions of the cello phrase. Tap a slip to hear it; both run in step. Then choose either.',
  ask: 'Now choose.',
};
