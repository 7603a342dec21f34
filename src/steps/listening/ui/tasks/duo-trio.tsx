import { ChoiceBody } from './ChoiceBody';
import { ChoosingKeys } from './keys';
import type { TaskUi } from './task-ui';

export const duoTrio: TaskUi = {
  Body: (props) => <ChoiceBody {...props} from={1} />,
  Keys: ChoosingKeys,
  ask: 'choose',
};
