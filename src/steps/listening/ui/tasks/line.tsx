import { LineBody } from './LineBody';
import { placing } from './keys';
import type { TaskUi } from './task-ui';

export const line: TaskUi = {
  Body: (props) => <LineBody {...props} lower="worse for this part" upper="better for this part" />,
  keys: placing,
  practice:
    'Tap a slip to hear it; all run in step. Then drag each slip onto the line, or tap the line: the one heard last goes there.',
  ask: 'Now place each slip on the line.',
};
