import { rounds } from '@/core/design/rounds';
import { rightOrWrong } from './forced-choice';
import { plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from './task';

/** From memory (A or not-A, ISO 8588, with both learned): one clip alone, which of the two is it? */
export const memory: Task = {
  id: 'memory',
  name: 'From memory',
  shows: 'Two recordings are learned; then one at a time comes back: which of the two is it?',
  proves:
    'Whether the difference survives without the other beside it, as for a real audience. Guessing gives one in two.',
  prompt: 'Which of the two is this?',
  ofOnePair: true,
  freshWordsOnly: true,
  clips: () => 1,
  round: () => 2,
  orders({ seats, trialsPerSeat, pair, random }) {
    if (!pair) throw new RangeError('learning by heart needs two named chains');
    const learning = rounds([[...pair], [...pair].reverse()], random);
    return Array.from({ length: seats }, () => {
      const learned = learning.next().value;
      const trials = Array.from({ length: trialsPerSeat }, (): TrialDesign => {
        // Drawn anew each time: what was right so far tells nothing of what comes.
        const right = random.below(2);
        return { kind: 'judged', slots: [plain(learned[right])], right };
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
  observe(answer, trial) {
    const said = rightOrWrong(answer, trial, trial.learned);
    return said ? [{ kind: 'recall', ...said }] : [];
  },
};
