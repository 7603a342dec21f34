import { LineBody } from './LineBody';
import { placing } from './keys';
import type { TaskUi } from './task-ui';

export const reference: TaskUi = {
  Body: (props) => (
    <LineBody
      {...props}
      against
      lower="worse than the reference"
      middle="as good as it"
      upper="better than the reference"
    />
  ),
  keys: placing,
  practice:
    'Hear the reference and the other; both run in step. Then drag the other onto the line, or tap the line.',
  ask: 'Now place each slip on the line.',
};
