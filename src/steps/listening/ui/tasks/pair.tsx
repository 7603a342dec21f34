import { ChoiceBody } from './ChoiceBody';
import { LikingKeys } from './keys';
import type { TaskUi } from './task-ui';

export const pair: TaskUi = {
  Body: (props) => <ChoiceBody {...props} liking />,
  Keys: LikingKeys,
  ask: 'choose',
};
