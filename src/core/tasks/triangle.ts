import { allPairs } from '@/core/design/orders';
import { forcedChoiceOrders, observeForced, slotRefusal } from './forced-choice';
import { type Task, trialSeconds } from './task';

/** Triangle (ISO 4120): which of three is not like the others? */
export const triangle: Task = {
  id: 'triangle',
  name: 'Odd one out',
  shows: 'Three recordings, two of them the same.',
  proves:
    'Whether two can be told apart at all; not which is better. Guessing gives one in three; slight differences need many trials.',
  prompt: 'Which one is not like the other two?',
  ofOnePair: false,
  freshWordsOnly: true,
  clips: () => 3,
  round: (chains) => allPairs(chains).length,
  orders: (plan) =>
    forcedChoiceOrders(plan, [
      { of: [0, 0, 1], right: 2 },
      { of: [0, 1, 0], right: 1 },
      { of: [1, 0, 0], right: 0 },
      { of: [1, 1, 0], right: 2 },
      { of: [1, 0, 1], right: 1 },
      { of: [0, 1, 1], right: 0 },
    ]),
  seconds: trialSeconds,
  refusal: (answer, trial) => slotRefusal(answer, trial, 0),
  section: 'audibility',
  observe: (answer, trial) => observeForced('triangle', answer, trial),
};
