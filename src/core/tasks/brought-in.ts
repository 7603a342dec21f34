import type { Observation } from '@/core/statistics/observation';
import { TASKS } from './index';
import type { TaskId } from './index';
import type { RestoredTrial } from './task';

/** What was asked in one place, of whom; chains and listeners as the file calls them. */
export interface BroughtPart {
  task: TaskId;
  source: string;
  context: string;
  /** Every word that was ticked, where words were. */
  words: string[];
  /** Of each listener their trials, in the order of the file. */
  listeners: Map<string, RestoredTrial[]>;
}

export interface BroughtIn {
  parts: BroughtPart[];
  /** Answers that were no judgements: controls, and what was said with names told. */
  leftOut: number;
  /** What cannot be kept as a trial, and how many answers that are. */
  faults: { message: string; answers: number }[];
}

const TASK_OF = { pair: 'pair', rating: 'line', ticks: 'words', recall: 'memory' } as const;
const taskOf = (one: Observation): TaskId => (one.kind === 'forced' ? one.task : TASK_OF[one.kind]);

const WHY: Partial<Record<TaskId, string>> = {
  pair: 'pairs do not say which of the two was heard first',
  line: 'ratings are against another recording, on a line of their own, or of more than nine recordings at once',
  memory: 'answers from memory do not say what was learned',
};

/** Puts what was said in one trial together; a recording that is rated again in it begins another. */
function trialsOf(said: readonly Observation[]): Observation[][] {
  const trials: Observation[][] = [];
  const open = new Map<string, Observation[]>();
  for (const one of said) {
    const key = JSON.stringify([taskOf(one), one.source, one.context, one.listener, one.trial]);
    const trial = open.get(key);
    if (trial && one.kind === 'rating' && trial.every(({ chain }) => chain !== one.chain)) {
      trial.push(one);
      continue;
    }
    const begun = [one];
    open.set(key, begun);
    trials.push(begun);
  }
  return trials;
}

/**
 * Turns results of another program into trials that a bank can keep and read like its own. What was heard in which
 * order is only known of pairs; of what has a right answer the slots are made up, and nothing that is read depends on
 * them.
 */
export function broughtIn(observations: readonly Observation[]): BroughtIn {
  const judged = observations.filter(({ role }) => role === 'judged');
  const parts = new Map<string, BroughtPart>();
  const faults = new Map<string, number>();
  for (const said of trialsOf(judged)) {
    const { listener, source, context } = said[0]!;
    const task = taskOf(said[0]!);
    const trial = TASKS[task].restore?.(said) ?? null;
    if (!trial) {
      const message = WHY[task] ?? 'two answers stand under one trial';
      faults.set(message, (faults.get(message) ?? 0) + said.length);
      continue;
    }
    const key = JSON.stringify([task, source, context]);
    const part: BroughtPart = parts.get(key) ?? {
      task,
      source,
      context,
      words: [],
      listeners: new Map(),
    };
    parts.set(key, part);
    const own = part.listeners.get(listener);
    if (own) own.push(trial);
    else part.listeners.set(listener, [trial]);
    const ticked = 'words' in trial.answer ? trial.answer.words : [];
    part.words = [...new Set([...part.words, ...ticked])];
  }
  return {
    parts: [...parts.values()],
    leftOut: observations.length - judged.length,
    faults: [...faults].map(([message, answers]) => ({ message, answers })),
  };
}
