import { PlacingKeys } from './keys';
import { LineBody } from './LineBody';
import type { TaskUi } from './task-ui';

export const reference: TaskUi = {
  Body: (props) => <LineBody {...props} against />,
  Keys: PlacingKeys,
  ask: 'place',
};
