import { distance } from '@/core/simulation/listeners';
import { rememberedShare } from '@/core/statistics/psychometric';
import { DISTANCE_SCALE, FORCED_TRIALS, forcedPower, slotOf } from '../shared/forced-panel';
import { listenersOf } from '../shared/panel';
import { rounds } from '@/core/design/rounds';
import { rightOrWrong } from '../shared/forced-choice';
import { PLAIN, plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from '../task';

/** What of a simulated listener’s d′ is left without the other beside it. */
const REMEMBERED = 0.7;

/** From memory (A or not-A, ISO 8588, with both learned): one clip alone, which of the two is it? */
export const memory: Task = {
  ...PLAIN,
  rightPlaces: 2,
  name: 'From memory',
  shows: 'Two recordings are learned; then one at a time comes back: which of the two is it?',
  proves:
    'Whether the difference survives without the other beside it, as for a real audience. Guessing gives one in two.',
  prompt: 'Which of the two is this?',
  ofOnePair: true,
  freshWordsOnly: true,
  learns: true,
  proposes: () => ({ trials: FORCED_TRIALS, words: [] }),
  clips: () => 1,
  practiceClips: 2,
  round: () => 2,
  orders({ seats, trialsPerSeat, pair, together, random }) {
    if (!pair) throw new RangeError('learning by heart needs two named chains');
    const learning = rounds([[...pair], [...pair].reverse()], random);
    return Array.from({ length: seats }, () => {
      const learned = learning.next().value;
      const turns = rounds([0, 1], random);
      const trials = Array.from({ length: trialsPerSeat }, (): TrialDesign => {
        // Drawn anew each time: what was right so far tells nothing of what comes. In a room, where all would lean
        // to one together, each is right equally often.
        const right = together ? turns.next().value : random.below(2);
        return { kind: 'judged', slots: [plain(learned[right]!)], right };
      });
      return [{ kind: 'learning', slots: learned.map(plain), right: null }, ...trials];
    });
  },
  seconds: trialSeconds,
  refusal(answer, { kind }) {
    if (kind === 'learning') return 'learned' in answer ? null : WRONG_SHAPE;
    return 'slot' in answer && (answer.slot === 0 || answer.slot === 1) ? null : WRONG_SHAPE;
  },
  section: 'recall',
  buys: ({ seats, trials }) => `${seats * trials} answers from memory, of ${listenersOf(seats)}.`,
  power: { ...forcedPower([0, 1], rememberedShare), names: () => 'the two' },
  simulate(listener, { trial, characters }) {
    if (trial.kind === 'learning') return { learned: true };
    const d = REMEMBERED * DISTANCE_SCALE * distance(characters[0]!, characters[1]!);
    return slotOf(listener.random, rememberedShare(d), trial.right ?? 0, [0, 1]);
  },
  observe(answer, trial) {
    const said = rightOrWrong(answer, trial, trial.learned);
    return said ? [{ kind: 'recall', ...said }] : [];
  },
};
