import { buysOfForced, forcedPower, forcedTrials, distinguishes } from '../shared/forced-panel';
import { allPairs } from '@/core/design/orders';
import {
  forcedChoiceOrders,
  observeForced,
  restoreForced,
  slotRefusal,
} from '../shared/forced-choice';
import { PLAIN, type Task, trialSeconds } from '../task';
import { rightShare } from '@/core/statistics/psychometric';

/** Duo-trio with balanced reference (ISO 10399): which of two is the twin of the first? */
export const duoTrio: Task = {
  ...PLAIN,
  rightPlaces: 2,
  name: 'Which twin?',
  shows: 'One recording, then two more: one of them is the same as the first.',
  proves: 'Whether two can be told apart at all; not which is better. Guessing gives one in two.',
  prompt: 'Which of the two is the same as the first?',
  namesReference: true,
  freshWordsOnly: true,
  asksFirst: true,
  proposes: ({ chains }) => ({ trials: forcedTrials(allPairs(chains).length), words: [] }),
  clips: () => 3,
  practiceClips: 3,
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
  buys: ({ seats, trials, among }) => {
    const pairs = allPairs(among).length;
    return buysOfForced(seats, trials, pairs);
  },
  power: forcedPower([1, 2], (d) => rightShare('duo-trio', d)),
  simulate: (listener, { trial, characters }) =>
    distinguishes(listener, 'duo-trio', trial, characters, [1, 2]),
  observe: (answer, trial) => observeForced('duo-trio', answer, trial),
  restore: (said) => restoreForced(said, [0, 0, 1], 1, 2),
};
