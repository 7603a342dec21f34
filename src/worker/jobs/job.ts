import type { Tx } from '@/platform/database';
import type { Queue } from '@/platform/jobs';

export type Report = (share: number) => void;

/** Runs a task of `worker/tasks` in a thread; a report is asked for only where the task tells how far it is. */
export type Run = <T>(name: string, task: object, report?: Report) => Promise<T>;

/** What a job did: done, or a sentence for the engineer (which another try would not change). */
export type Outcome = { refused: string } | void;

/**
 * One kind of work behind the screens. It ends in one transaction, so that a second run, after the first was
 * killed, comes to the same or finds it done.
 */
export interface Job {
  queue: Queue;
  /** How many are done side by side; one where nothing is said. */
  atOnce?: number;
  /** @param subjectId of the row that it is about */
  run(subjectId: string, inThread: Run, report: Report): Promise<Outcome>;
  /** After the last try: leaves the row in a state that a screen can tell of. */
  giveUp?(tx: Tx, subjectId: string, remark: string, at: Date): Promise<void>;
}
