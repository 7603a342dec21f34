import { PlacingKeys } from './keys';
import { LineBody } from './LineBody';
import type { TaskUi } from './task-ui';

export const rating: TaskUi = {
  Body: (props) => <LineBody {...props} />,
  Keys: PlacingKeys,
  ask: 'place',
};
