import { duoTrio } from './duo-trio';
import { likeness } from './likeness';
import { line } from './line';
import { memory } from './memory';
import { pair } from './pair';
import { reference } from './reference';
import type { Task } from './task';
import { triangle } from './triangle';
import { twoInterval } from './two-interval';
import { words } from './words';

const ALL = {
  'duo-trio': duoTrio,
  triangle,
  'two-interval': twoInterval,
  memory,
  pair,
  line,
  reference,
  likeness,
  words,
} satisfies Record<string, Task>;

export type TaskId = keyof typeof ALL;
/** All listening tasks; what is heard first stands first. */
export const TASKS: Readonly<Record<TaskId, Task>> = ALL;
export const TASK_IDS = Object.keys(TASKS) as TaskId[];
