import { ChoiceBody } from './ChoiceBody';
import { ChoosingKeys } from './keys';
import type { TaskUi } from './task-ui';

export const triangle: TaskUi = {
  Body: ChoiceBody,
  Keys: ChoosingKeys,
  ask: 'choose',
};
