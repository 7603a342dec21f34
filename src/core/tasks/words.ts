import { williamsRows, williamsRun } from '@/core/design/williams';
import { plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from './task';

export const TONAL_WORDS: readonly string[] = (
  'dark bright boxy nasal airy thin full warm harsh sibilant boomy hollow smooth forward scooped ' +
  'detailed dull noisy'
).split(' ');
export const STEREO_WORDS: readonly string[] =
  'centred stable wide enveloping narrow blurred'.split(' ');

/** Check all that apply: one recording, and the words that fit it. */
export const words: Task = {
  id: 'words',
  name: 'In words',
  shows: 'One recording at a time and a list of words; all that fit are ticked.',
  proves:
    'Which words go with which chain, later beside the measurements; not how much of it, nor whether it is liked.',
  prompt: 'Which words fit this recording?',
  ofOnePair: false,
  freshWordsOnly: false,
  clips: () => 1,
  round: (chains) => chains,
  orders({ chains, seats, trialsPerSeat, pair, random }) {
    const all = pair ?? Array.from({ length: chains }, (_, i) => i);
    const rows = williamsRows(all.length, random);
    return Array.from({ length: seats }, () => {
      const run = williamsRun(all.length, rows);
      return Array.from({ length: trialsPerSeat }, (): TrialDesign => ({
        kind: 'judged',
        slots: [plain(all[run.next().value])],
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
  observe(answer, { kind, chains }) {
    if (!('words' in answer) || kind === 'learning') return [];
    return [{ kind: 'ticks', role: kind, chain: chains[0], words: answer.words }];
  },
};
