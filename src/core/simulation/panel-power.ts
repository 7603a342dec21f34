import type { Random } from '@/core/signal/random';
import { type Observation, withReplicates } from '@/core/statistics/observation';
import { SECTIONS } from '@/core/statistics/sections';
import { ALPHA } from '@/core/statistics/words';
import { TASKS, type TaskId } from '@/core/tasks';
import { evenTrials } from '@/core/tasks/even';
import type { Answering, PowerQuestion, TrialDesign } from '@/core/tasks/task';

/** Shares of simulated panels, 0 … 1. */
export interface Powers {
  /** The headline claims something. */
  found: number;
  /** It names what is so in truth: the best chain, the pair, the word. */
  named: number;
}

const nameOf = (chain: number) => `${chain}`;

/** What one simulated panel says: by the part's own orders, and its own way to read an answer. */
export function panelOf(
  { task: id, ...question }: PowerQuestion & { task: TaskId },
  random: Random,
): Observation[] {
  const task = TASKS[id];
  const { chains, seats, trials, controls, together } = question;
  const orders = task.orders({
    chains,
    seats: together ? 1 : seats,
    together,
    trialsPerSeat: trials,
    pair: task.ofOnePair ? [0, 1] : null,
    reference: chains - 1,
    controls,
    random,
  });
  return readPanel(
    id,
    Array.from({ length: seats }, (_, seat) => orders[together ? 0 : seat]!),
    () => task.power!.listener(question, random),
  );
}

/** What listeners say who answer the trials they hear. */
export function readPanel(
  id: TaskId,
  orders: readonly (readonly TrialDesign[])[],
  listener: () => Answering,
): Observation[] {
  const heard = orders.flatMap((trials, seat) => {
    const answer = listener();
    let learned: string[] = [];
    return trials.flatMap((trial, position) => {
      const own = trial.slots.map(({ chain }) => nameOf(chain));
      if (trial.kind === 'learning') learned = own;
      const opened = {
        kind: trial.kind,
        chains: own,
        right: trial.right,
        learned,
        gainsDb: trial.slots.map(({ gainDb }) => gainDb),
      };
      return TASKS[id].observe(answer(trial), opened).map((said) => ({
        listener: `L${seat}`,
        source: '',
        passage: '',
        context: '',
        sitting: '',
        part: '1',
        trial: `${position}`,
        ...said,
      }));
    });
  });
  return withReplicates(heard);
}

/** Whether a room hears everything in each place equally often; else no verdict is given. */
function evenIn({ task, chains, controls, trials }: PowerQuestion & { task: TaskId }): boolean {
  const pairs = TASKS[task].ofOnePair ? 1 : (chains * (chains - 1)) / 2;
  const even = evenTrials(TASKS[task], { pairs, chains, controls });
  return even === null || trials % even === 0;
}

/**
 * Power by simulation: panels of listeners who differ from each other answer the part in its own orders, and each is
 * read by the analysis that is sealed with the plan.
 * @param runs simulated panels; the error of a share p is √(p (1 - p) / runs)
 * @param onProgress told now and then, 0 … 1
 * @returns null where the task states no single difference
 */
export function simulatedPower(
  question: PowerQuestion & { task: TaskId },
  runs: number,
  random: Random,
  onProgress: (share: number) => void = () => undefined,
): Powers | null {
  const { power, section } = TASKS[question.task];
  const { verdict } = SECTIONS[section];
  if (!power || !verdict) return null;
  if (question.together && !evenIn(question)) return { found: 0, named: 0 };
  const wanted = power.names(question);
  const sum = { found: 0, named: 0 };
  for (let run = 0; run < runs; run++) {
    const { p, named } = verdict(panelOf(question, random));
    if (p !== null && p < ALPHA) {
      sum.found++;
      if (named().includes(wanted)) sum.named++;
    }
    if (run % 20 === 19) onProgress((run + 1) / runs);
  }
  return { found: sum.found / runs, named: sum.named / runs };
}
