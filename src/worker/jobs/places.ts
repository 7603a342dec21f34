import os from 'node:os';

/** Heavy jobs that have a processor each. */
export const PLACES = Math.max(1, Math.min(2, os.availableParallelism()));
