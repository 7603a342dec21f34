import { rounds } from '@/core/design/rounds';
import { williamsRows, williamsRun } from '@/core/design/williams';
import { plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from './task';

/** The known reference returns before each candidate; the middle of the scale is "as good as it". */
export const reference: Task = {
  id: 'reference',
  name: 'Against the reference',
  shows:
    'The reference, named as such, and one candidate; judged from worse through alike to better.',
  proves:
    'How far each stands from one known sound, comparable over days; the hidden reference shows how far chance reaches.',
  prompt: 'Against the reference, how well does the other suit this part?',
  ofOnePair: false,
  freshWordsOnly: false,
  clips: () => 2,
  round: (chains) => chains - 1,
  orders({ chains, seats, trialsPerSeat, controls, pair, reference: ref, random }) {
    const among = pair ?? Array.from({ length: chains }, (_, i) => i);
    const candidates = among.filter((chain) => chain !== ref);
    const rows = williamsRows(candidates.length, random);
    const selves = rounds([0, 1], random);
    return Array.from({ length: seats }, () => {
      const run = williamsRun(candidates.length, rows);
      const trials = Array.from({ length: trialsPerSeat }, (): TrialDesign => {
        const slots = [plain(ref), plain(candidates[run.next().value])];
        return { kind: 'judged', slots, right: null };
      });
      for (const { slots } of random.shuffled(trials).slice(0, controls.repeats)) {
        // Far from its first place: at the other end of the row.
        const first = trials.findIndex((trial) => trial.slots === slots) < trials.length / 2;
        const again: TrialDesign = { kind: 'repeat', slots, right: null };
        if (first) trials.push(again);
        else trials.unshift(again);
      }
      if (controls.self) {
        const middle = Math.floor(trials.length / 2) + selves.next().value;
        trials.splice(middle, 0, { kind: 'self', slots: [plain(ref), plain(ref)], right: null });
      }
      return trials;
    });
  },
  seconds: trialSeconds,
  refusal(answer) {
    if (!('places' in answer)) return WRONG_SHAPE;
    return answer.places.length === 1 ? null : 'Place the slip on the line, then confirm.';
  },
  rows(answer, { chains }) {
    if (!('places' in answer)) return [];
    const response = String(answer.places[0]);
    return [{ task: 'rating', chain: chains[1], chainB: '', first: '', response, correct: '' }];
  },
};
