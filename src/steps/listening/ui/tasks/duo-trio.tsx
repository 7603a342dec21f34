import { ChoiceBody } from './ChoiceBody';
import { choosing } from './keys';
import type { TaskUi } from './task-ui';

export const duoTrio: TaskUi = {
  Body: (props) => <ChoiceBody {...props} from={1} choose={(word) => `${word} is the twin`} />,
  keys: (clips) => choosing(clips, false),
  practice:
    'The first is given; one of the other two is the same. Tap a slip to hear it; all run in step. Then choose.',
  ask: 'Now choose.',
};
