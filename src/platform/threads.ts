import os from 'node:os';
import path from 'node:path';
import { Piscina } from 'piscina';

const shared = globalThis as { zeitbankThreads?: Piscina };

/** Threads that run the core, away from the request path; tasks are the exports of worker/tasks. */
export function threads(): Piscina {
  if (!shared.zeitbankThreads) {
    const root = process.env.ZEITBANK_ROOT ?? process.cwd();
    shared.zeitbankThreads = new Piscina({
      filename: path.join(root, 'dist/services/tasks.mjs'),
      minThreads: 0,
      maxThreads: Math.max(1, Math.min(4, os.availableParallelism())),
      idleTimeout: 60_000,
      // Arrays die young in these threads; with little room for young ones their memory is free sooner.
      resourceLimits: { maxYoungGenerationSizeMb: 16 },
    });
    // A thread that dies takes its task with it, not the process.
    shared.zeitbankThreads.on('error', () => undefined);
  }
  return shared.zeitbankThreads;
}

export async function endThreads(): Promise<void> {
  await shared.zeitbankThreads?.destroy();
  shared.zeitbankThreads = undefined;
}
