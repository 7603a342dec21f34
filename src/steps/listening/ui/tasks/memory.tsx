import { ChoosingKeys } from './keys';
import { LearningBody, MemoryBody } from './MemoryBody';
import type { TaskUi } from './task-ui';

export const memory: TaskUi = {
  Body: (props) => (props.part.learning ? <LearningBody {...props} /> : <MemoryBody {...props} />),
  Keys: ChoosingKeys,
  ask: 'choose',
  meant: ({ learned }, slot) => learned[slot]!,
};
