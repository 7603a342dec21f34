import { signTestPower } from '@/core/design/power';
import { Random } from '@/core/signal/random';
import { TASK_IDS, type TaskId, TASKS } from '@/core/tasks';
import type { PowerQuestion } from '@/core/tasks/task';
import { simulatedPower } from './panel-power';

type Question = PowerQuestion & { task: TaskId };

const question = (change: Partial<Question>): Question => ({
  task: 'pair',
  chains: 2,
  seats: 12,
  trials: 4,
  tiesAllowed: false,
  effect: 0.7,
  ...change,
});
const RUNS = 600;
const power = (change: Partial<Question>, seed = 1) =>
  simulatedPower(question(change), RUNS, new Random(seed)) ?? Number.NaN;

describe('simulated panels', () => {
  it.each(TASK_IDS.filter((id) => TASKS[id].power))(
    '%s: without a difference about one in twenty panels errs, or fewer',
    (task) => {
      const none = task === 'pair' ? 0.5 : 0;
      const chains = TASKS[task].line ? 4 : 2;
      // Three standard errors above 5 %; exact tests on few answers stay below.
      expect(power({ task, chains, trials: 6, effect: none })).toBeLessThan(0.05 + 3 * 0.009);
    },
  );

  it('find more with more listeners, and large differences almost always', () => {
    expect(power({ seats: 30 })).toBeGreaterThan(power({ seats: 8 }) + 0.2);
    expect(power({ effect: 0.95, seats: 20 })).toBeGreaterThan(0.97);
    expect(power({ task: 'line', chains: 6, trials: 1, effect: 40 })).toBeGreaterThan(0.97);
    expect(power({ task: 'triangle', effect: 4, trials: 6 })).toBeGreaterThan(0.97);
  });

  it('agree with the sign test where each listener judges one pair once', () => {
    // Differing tastes draw the average share towards one half; one judgement each is then a plain sample.
    const [lead, spread] = [Math.log(0.7 / 0.3), 0.5 * Math.SQRT2];
    const random = new Random(7);
    let share = 0;
    for (let i = 0; i < 20000; i++) {
      share += 1 / (1 + Math.exp(-(lead + spread * random.normal()))) / 20000;
    }
    const exact = signTestPower(60, share);
    expect(Math.abs(power({ seats: 60, trials: 1 }) - exact)).toBeLessThan(0.09);
  });

  it('say nothing of words', () => {
    expect(simulatedPower(question({ task: 'words' }), 10, new Random(1))).toBeNull();
  });
});
