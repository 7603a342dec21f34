import { allPairs } from '@/core/design/orders';
import { GUESS, rightShare } from '@/core/statistics/psychometric';
import { buysOfForced, FORCED_TRIALS, forcedPower, slotOf } from '../shared/forced-panel';
import {
  forcedChoiceOrders,
  observeForced,
  restoreForced,
  slotRefusal,
} from '../shared/forced-choice';
import { PLAIN, type Task, trialSeconds } from '../task';

/** d′ of a simulated listener per unit of difference in presence and air, as the brighter is asked for. */
const BRIGHT_SCALE = 0.5;

/** Two-interval choice (ISO 5495, one-sided): which has more of a named quality? */
export const twoInterval: Task = {
  ...PLAIN,
  rightPlaces: 2,
  name: 'Which has more?',
  shows: 'Two recordings; the one with more of a named quality is chosen.',
  proves:
    'Whether the first chain named has more of that quality than the second, from few trials; nothing of other qualities or of liking.',
  prompt: 'Which one is brighter?',
  ofOnePair: true,
  pairLabels: ['Expected to have more', 'Expected to have less'],
  freshWordsOnly: true,
  asksFirst: true,
  proposes: () => ({ trials: FORCED_TRIALS, words: [] }),
  clips: () => 2,
  practiceClips: 2,
  round: () => 1,
  orders: (plan) =>
    forcedChoiceOrders(plan, [
      { of: [0, 1], right: 0 },
      { of: [1, 0], right: 1 },
    ]),
  seconds: trialSeconds,
  refusal: (answer, trial) => slotRefusal(answer, trial, 0),
  section: 'audibility',
  buys: ({ seats, trials, among }) => {
    const pairs = allPairs(among).length;
    return buysOfForced(seats, trials, pairs);
  },
  power: forcedPower([0, 1], (d) => rightShare('two-interval', d)),
  simulate(listener, { trial, characters }) {
    const right = trial.right ?? 0;
    const bright = characters.map(({ presence, air }) => presence + air);
    const more = BRIGHT_SCALE * (bright[right]! - bright[1 - right]!);
    const share = more > 0 ? rightShare('two-interval', more) : GUESS['two-interval'];
    return slotOf(listener.random, share, right, [0, 1]);
  },
  observe: (answer, trial) => observeForced('two-interval', answer, trial),
  restore: (said) => restoreForced(said, [0, 1], 0, 1),
};
