import { ChoiceBody } from './ChoiceBody';
import { ChoosingKeys } from './keys';
import type { TaskUi } from './task-ui';

export const twoInterval: TaskUi = {
  Body: ChoiceBody,
  Keys: ChoosingKeys,
  ask: 'choose',
};
