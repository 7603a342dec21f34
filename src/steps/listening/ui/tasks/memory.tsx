import { choosing } from './keys';
import { LearningBody, MemoryBody } from './MemoryBody';
import type { TaskUi } from './task-ui';

export const memory: TaskUi = {
  Body: (props) => (props.part.learning ? <LearningBody {...props} /> : <MemoryBody {...props} />),
  keys: (clips) => choosing(clips, false),
  practice:
    'Tap each slip to hear it. In the sitting you learn two like this, then hear one alone.',
  ask: 'Now choose.',
  meant: ({ learned }, slot) => learned[slot]!,
};
