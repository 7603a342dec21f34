import type { TaskId } from '@/core/tasks';
import { duoTrio } from './duo-trio';
import { likeness } from './likeness';
import { rating } from './rating';
import { memory } from './memory';
import { pair } from './pair';
import { reference } from './reference';
import type { TaskUi } from './task-ui';
import { triangle } from './triangle';
import { twoInterval } from './two-interval';
import { words } from './words';

/** How each task looks to listeners. */
export const TASK_UI: Readonly<Record<TaskId, TaskUi>> = {
  'duo-trio': duoTrio,
  triangle,
  'two-interval': twoInterval,
  memory,
  pair,
  line: rating,
  reference,
  likeness,
  words,
};
