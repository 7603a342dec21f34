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

/** Triangle (ISO 4120): which of three is not like the others? */
export const triangle: Task = {
  ...PLAIN,
  rightPlaces: 3,
  name: 'Odd one out',
  shows: 'Three recordings, two of them the same.',
  proves:
    'Whether two can be told apart at all; not which is better. Guessing gives one in three; slight differences need many trials.',
  prompt: 'Which one is not like the other two?',
  freshWordsOnly: true,
  asksFirst: true,
  proposes: ({ chains }) => ({ trials: forcedTrials(allPairs(chains).length), words: [] }),
  clips: () => 3,
  practiceClips: 3,
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
  buys: ({ seats, trials, among }) => {
    const pairs = allPairs(among).length;
    return buysOfForced(seats, trials, pairs);
  },
  power: forcedPower([0, 1, 2], (d) => rightShare('triangle', d)),
  simulate: (listener, { trial, characters }) =>
    distinguishes(listener, 'triangle', trial, characters, [0, 1, 2]),
  observe: (answer, trial) => observeForced('triangle', answer, trial),
  restore: (said) => restoreForced(said, [0, 0, 1], 2, 0),
};
