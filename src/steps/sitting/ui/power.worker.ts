import { Random } from '@/core/signal/random';
import { type Powers, simulatedPower } from '@/core/simulation/panel-power';
import type { TaskId } from '@/core/tasks';
import type { PowerQuestion } from '@/core/tasks/task';

export interface PowerOrder {
  questions: (PowerQuestion & { task: TaskId })[];
  runs: number;
  seed: number;
}

export type PowerTold = { progress: number } | { powers: (Powers | null)[] };

const tell = (told: PowerTold) => self.postMessage(told);

self.addEventListener('message', ({ data }: MessageEvent<PowerOrder>) => {
  const { questions, runs, seed } = data;
  const powers = questions.map((question, i) =>
    simulatedPower(question, runs, new Random(seed), (share) =>
      tell({ progress: (i + share) / questions.length }),
    ),
  );
  tell({ powers });
});
