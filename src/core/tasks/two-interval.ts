import { forcedChoiceOrders, observeForced, slotRefusal } from './forced-choice';
import { type Task, trialSeconds } from './task';

/** Two-interval choice (ISO 5495, one-sided): which has more of a named quality? */
export const twoInterval: Task = {
  id: 'two-interval',
  name: 'Which has more?',
  shows: 'Two recordings; the one with more of a named quality is chosen.',
  proves:
    'Whether the first chain named has more of that quality than the second, from few trials; nothing of other qualities or of liking.',
  prompt: 'Which one is brighter?',
  ofOnePair: true,
  freshWordsOnly: true,
  clips: () => 2,
  round: () => 1,
  orders: (plan) =>
    forcedChoiceOrders(plan, [
      { of: [0, 1], right: 0 },
      { of: [1, 0], right: 1 },
    ]),
  seconds: trialSeconds,
  refusal: (answer, trial) => slotRefusal(answer, trial, 0),
  section: 'audibility',
  observe: (answer, trial) => observeForced('two-interval', answer, trial),
};
