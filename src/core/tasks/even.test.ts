import { leaning } from '@/core/simulation/leaning';
import { readPanel } from '@/core/simulation/panel-power';
import { Random } from '@/core/signal/random';
import { SECTIONS } from '@/core/statistics/sections';
import { ALPHA } from '@/core/statistics/words';
import { TASK_IDS, type TaskId, TASKS } from '.';
import { evenTrials, NEVER, unevenlyHeard } from './even';
import type { Controls, TrialDesign } from './task';

const NONE: Controls = { self: false, levelCatch: false, repeats: 0 };

/** The one order that a room hears. */
function roomOrder(
  task: TaskId,
  { chains, trials, controls = NONE }: { chains: number; trials: number; controls?: Controls },
  random: Random,
): TrialDesign[] {
  const [order] = TASKS[task].orders({
    chains,
    seats: 1,
    together: true,
    trialsPerSeat: trials,
    pair: TASKS[task].ofOnePair ? [0, 1] : null,
    reference: chains - 1,
    controls,
    random,
  });
  return order!;
}

const uneven = (task: TaskId, order: readonly TrialDesign[]) =>
  unevenlyHeard(
    TASKS[task],
    order
      .filter(({ kind }) => kind === 'judged')
      .map(({ slots, right }) => ({ chains: slots.map(({ chain }) => `${chain}`), right })),
  );

/** Share of rooms whose headline claims something where nobody hears anything, but all lean to the same places. */
function claimed(
  task: TaskId,
  chains: number,
  listeners: number,
  trials: number,
  panels: number,
): number {
  const random = new Random(5);
  let found = 0;
  for (let i = 0; i < panels; i++) {
    const order = roomOrder(task, { chains, trials }, random);
    const panel = readPanel(
      task,
      Array.from({ length: listeners }, () => order),
      () => leaning(task, ['warm', 'thin'], random),
    );
    const { p } = SECTIONS[TASKS[task].section].verdict!(panel);
    if (p !== null && p < ALPHA) found++;
  }
  return found / panels;
}

describe('in a room', () => {
  it.each([
    ['duo-trio', 2, 2],
    ['triangle', 2, 3],
    ['triangle', 3, 9],
    ['two-interval', 2, 2],
    ['memory', 2, 2],
    ['line', 4, 4],
    ['line', 5, 5],
    ['line', 9, NEVER],
    ['likeness', 4, 3],
    ['reference', 4, null],
    ['pair', 4, null],
    ['words', 4, null],
  ] as const)('%s of %i is even after %s trials', (task, chains, trials) => {
    const pairs = TASKS[task].ofOnePair ? 1 : (chains * (chains - 1)) / 2;
    expect(evenTrials(TASKS[task], { pairs, chains, controls: NONE })).toBe(trials);
  });

  it('the hidden reference takes one place more, and a slip that lies there twice none of its own', () => {
    const asked = { pairs: 6, chains: 4 };
    const self = { ...NONE, self: true };
    expect(evenTrials(TASKS.likeness, { ...asked, controls: self })).toBe(4);
    expect(evenTrials(TASKS.line, { ...asked, controls: { ...NONE, repeats: 1 } })).toBe(NEVER);
  });

  it.each(TASK_IDS)('%s: orders of as many trials are even, of one more are not', (task) => {
    for (const chains of TASKS[task].ofOnePair ? [2] : [3, 4, 5]) {
      const pairs = TASKS[task].ofOnePair ? 1 : (chains * (chains - 1)) / 2;
      const even = evenTrials(TASKS[task], { pairs, chains, controls: NONE });
      if (even === null || even === NEVER) continue;
      for (let seed = 1; seed <= 10; seed++) {
        const of = (trials: number) => roomOrder(task, { chains, trials }, new Random(seed));
        expect(uneven(task, of(even))).toBe(false);
        expect(uneven(task, of(2 * even))).toBe(false);
        expect(uneven(task, of(even + 1))).toBe(true);
      }
    }
  });

  it.each<[TaskId, chains: number, trials: number]>([
    ['pair', 2, 2],
    ['pair', 4, 6],
    ['line', 4, 4],
    ['line', 5, 5],
    ['likeness', 4, 3],
    ['reference', 4, 3],
    ['duo-trio', 2, 6],
    ['triangle', 2, 6],
    ['two-interval', 2, 6],
    ['memory', 2, 6],
    ['words', 4, 4],
  ])('%s of %i: a strong common leaning to places is no difference', (task, chains, trials) => {
    // Three standard errors of 400 panels above 5 %.
    for (const listeners of [12, 24]) {
      expect(claimed(task, chains, listeners, trials, 400)).toBeLessThan(0.05 + 3 * 0.011);
    }
  });

  it('and would pass for one where places are uneven', () => {
    expect(claimed('line', 4, 12, 1, 200)).toBeGreaterThan(0.12);
  });
});
