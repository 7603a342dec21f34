import { judgementsNeeded, trialsNeeded } from './power';
import { type Situation, suggestParts } from './suggest';
import { listenerMinutes } from './time-budget';

const seconds = { triangle: 54, pair: 38, line: 102, words: 22 };
const controls = { triangle: 0, pair: 3, line: 0, words: 0 };
const situation = (change: Partial<Situation>): Situation => ({
  chains: 2,
  listeners: 20,
  minutesEach: 20,
  inDoubt: false,
  seconds,
  controls,
  ...change,
});
const minutesOf = (parts: ReturnType<typeof suggestParts>) =>
  listenerMinutes(parts.map(({ task, trials }) => (trials + controls[task]) * seconds[task]));

it('asks a pair as often as a 70 : 30 preference needs, and no oftener', () => {
  const parts = suggestParts(situation({}));
  expect(parts[0]).toEqual({ task: 'pair', trials: Math.ceil(judgementsNeeded(0.7) / 20) });
  expect(parts.map(({ task }) => task)).toEqual(['pair', 'words']);
});

it('asks first whether doubtful ones can be told apart, within 40 % of the time', () => {
  const [first] = suggestParts(situation({ inDoubt: true }));
  expect(first).toEqual({
    task: 'triangle',
    trials: Math.ceil(trialsNeeded('triangle', 1.5) / 20),
  });
  const short = suggestParts(situation({ inDoubt: true, listeners: 2 }))[0]!;
  expect(short.task).toBe('triangle');
  expect(short.trials * seconds.triangle).toBeLessThanOrEqual(0.4 * (20 * 60 - 150));
});

it('puts many chains on one line where their pairs cannot be paid', () => {
  const tasks = suggestParts(situation({ chains: 6 })).map(({ task }) => task);
  expect(tasks).toEqual(['line', 'pair', 'words']);
});

it.each([
  [2, 1, 4],
  [2, 30, 25],
  [4, 12, 15],
  [6, 24, 45],
  [8, 5, 10],
])('%i chains, %i listeners: stays within %i minutes', (chains, listeners, minutesEach) => {
  for (const inDoubt of [true, false]) {
    const parts = suggestParts(situation({ chains, listeners, minutesEach, inDoubt }));
    expect(parts.length).toBeGreaterThan(0);
    expect(minutesOf(parts)).toBeLessThanOrEqual(minutesEach + 1e-9);
  }
});

it('suggests nothing where there is no time', () => {
  expect(suggestParts(situation({ minutesEach: 2 }))).toEqual([]);
});
