import { STEREO_WORDS, TONAL_WORDS } from './lists';
import { buys, power, simulate } from './panel';
import { williamsRows, williamsRun } from '@/core/design/williams';
import { PLAIN, plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from '../task';

/** Check all that apply: one recording, and the words that fit it. */
export const words: Task = {
  ...PLAIN,
  name: 'In words',
  shows: 'One recording at a time and a list of words; all that fit are ticked.',
  proves:
    'Which words go with which chain, later beside the measurements; not how much of it, nor whether it is liked.',
  prompt: 'Which words fit this recording?',
  asksWords: true,
  proposes: ({ chains, stereo }) => ({
    trials: chains,
    words: [...(stereo ? STEREO_WORDS : []), ...TONAL_WORDS],
  }),
  clips: () => 1,
  practiceClips: 1,
  round: (chains) => chains,
  orders({ chains, seats, trialsPerSeat, pair, random }) {
    const all = pair ?? Array.from({ length: chains }, (_, i) => i);
    const rows = williamsRows(all.length, random);
    return Array.from({ length: seats }, () => {
      const run = williamsRun(all.length, rows);
      return Array.from({ length: trialsPerSeat }, (): TrialDesign => ({
        kind: 'judged',
        slots: [plain(all[run.next().value]!)],
        right: null,
      }));
    });
  },
  seconds: trialSeconds,
  refusal(answer, trial) {
    if (!('words' in answer)) return WRONG_SHAPE;
    return answer.words.every((word) => trial.words.includes(word)) ? null : WRONG_SHAPE;
  },
  section: 'attributes',
  buys,
  power,
  simulate,
  observe(answer, { kind, chains }) {
    if (!('words' in answer) || kind === 'learning') return [];
    return [{ kind: 'ticks', role: kind, chain: chains[0]!, words: answer.words }];
  },
  restore([said, ...more]) {
    if (said?.kind !== 'ticks' || more.length > 0) return null;
    return { chains: [said.chain], right: null, answer: { words: said.words } };
  },
};
