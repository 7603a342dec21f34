import { duoTrio } from './duo-trio';
import { likeness } from './likeness';
import { rating } from './rating';
import { memory } from './memory';
import { pair } from './pair';
import { reference } from './reference';
import type { Task } from './task';
import { triangle } from './triangle';
import { twoInterval } from './two-interval';
import { words } from './words';

/** The words by which banks and sealed keys know the tasks; they stay, whatever a task is called in code. */
const ALL = {
  'duo-trio': duoTrio,
  triangle,
  'two-interval': twoInterval,
  memory,
  pair,
  line: rating,
  reference,
  likeness,
  words,
} satisfies Record<string, Task>;

export type TaskId = keyof typeof ALL;
/** All listening tasks; what is heard first stands first. */
export const TASKS: Readonly<Record<TaskId, Task>> = ALL;
export const TASK_IDS = Object.keys(TASKS) as TaskId[];
