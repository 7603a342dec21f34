import type { Random } from '@/core/signal/random';
import { TASKS, type TaskId } from '@/core/tasks';
import type { PowerQuestion } from '@/core/tasks/task';

/**
 * Power by simulation: panels of listeners who differ from each other answer the part, and each is read
 * by the product's own analysis.
 * @param runs simulated panels
 * @param onProgress told now and then, 0 … 1
 * @returns share of the panels that find the difference; null where there is no single one
 */
export function simulatedPower(
  { task, ...question }: PowerQuestion & { task: TaskId },
  runs: number,
  random: Random,
  onProgress: (share: number) => void = () => undefined,
): number | null {
  const { power } = TASKS[task];
  if (!power) return null;
  let hits = 0;
  for (let run = 0; run < runs; run++) {
    if (power.found(question, random)) hits++;
    if (run % 20 === 19) onProgress((run + 1) / runs);
  }
  return hits / runs;
}
