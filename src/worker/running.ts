import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';

/** Where a run of a folder writes down who it is. */
export const runFileIn = (folder: string) => path.join(folder, 'run.json');

/** The address of a run of this folder that is alive, or null. */
export function runningElsewhere(folder: string): string | null {
  const runFile = runFileIn(folder);
  if (!existsSync(runFile)) return null;
  try {
    const run = z
      .object({ pid: z.int(), address: z.string() })
      .parse(JSON.parse(readFileSync(runFile, 'utf8')));
    const commandLine = readFileSync(`/proc/${run.pid}/cmdline`, 'utf8');
    return run.pid !== process.pid && commandLine.includes('supervisor') ? run.address : null;
  } catch {
    return null;
  }
}
