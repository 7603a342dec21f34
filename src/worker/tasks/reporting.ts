import type { MessagePort } from 'node:worker_threads';

/** Where a task tells the share that is done, 0 … 1. */
export interface WithProgress {
  progress?: MessagePort;
}

/** A failure that the engineer can mend; it is told, not tried again. */
export interface Refusal {
  refused: string;
}

export function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
