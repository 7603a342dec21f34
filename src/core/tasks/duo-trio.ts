import { allPairs } from '@/core/design/orders';
import { forcedChoiceOrders, observeForced, slotRefusal } from './forced-choice';
import { type Task, trialSeconds } from './task';

/** Duo-trio with balanced reference (ISO 10399): which of two is the twin of the first? */
export const duoTrio: Task = {
  id: 'duo-trio',
  name: 'Which twin?',
  shows: 'One recording, then two more: one of them is the same as the first.',
  proves: 'Whether two can be told apart at all; not which is better. Guessing gives one in two.',
  prompt: 'Which of the two is the same as the first?',
  ofOnePair: false,
  freshWordsOnly: true,
  clips: () => 3,
  round: (chains) => allPairs(chains).length,
  orders: (plan) =>
    forcedChoiceOrders(plan, [
      { of: [0, 0, 1], right: 1 },
      { of: [0, 1, 0], right: 2 },
      { of: [1, 1, 0], right: 1 },
      { of: [1, 0, 1], right: 2 },
    ]),
  seconds: trialSeconds,
  refusal: (answer, trial) => slotRefusal(answer, trial, 1),
  section: 'audibility',
  observe: (answer, trial) => observeForced('duo-trio', answer, trial),
};
