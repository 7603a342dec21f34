import { placing } from './keys';
import { LineBody } from './LineBody';
import type { TaskUi } from './task-ui';

export const likeness: TaskUi = {
  Body: (props) => (
    <LineBody {...props} against lower="unlike the reference" upper="like the reference" />
  ),
  keys: placing,
  practice:
    'The reference can be heard at any time; all run in step. Drag each other slip onto the line, or tap the line: the one heard last goes there.',
  ask: 'Now place each slip on the line.',
};
