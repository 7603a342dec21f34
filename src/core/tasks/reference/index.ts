import { worths } from '@/core/simulation/listeners';
import { buysOfRatings, placeOf, placesPower } from '../shared/places-panel';
import { williamsRows, williamsRun } from '@/core/design/williams';
import { amongJudged } from '../shared/controls';
import { PLAIN, plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from '../task';

/** The known reference returns before each candidate; the middle of the scale is "as good as it". */
export const reference: Task = {
  ...PLAIN,
  asksLiking: true,
  name: 'Against the reference',
  shows:
    'The reference, named as such, and one candidate; judged from worse through alike to better.',
  proves:
    'How far each stands from one known sound, comparable over days; the hidden reference shows how far chance reaches.',
  prompt: 'Against the reference, how well does the other suit this part?',
  pairLabels: null,
  freshWordsOnly: true,
  namesReference: true,
  offers: {
    self: { label: 'The reference hidden among the candidates', as: 'trial' },
    repeats: { label: 'Asked twice', as: 'trial' },
  },
  proposes: ({ chains }) => ({ trials: chains - 1, words: [] }),
  clips: () => 2,
  practiceClips: 2,
  round: (chains) => chains - 1,
  orders({ chains, seats, trialsPerSeat, controls, pair, reference: ref, random }) {
    const among = pair ?? Array.from({ length: chains }, (_, i) => i);
    const candidates = among.filter((chain) => chain !== ref);
    const rows = williamsRows(candidates.length, random);
    return Array.from({ length: seats }, () => {
      const run = williamsRun(candidates.length, rows);
      const trials = Array.from({ length: trialsPerSeat }, (): TrialDesign => {
        const slots = [plain(ref), plain(candidates[run.next().value]!)];
        return { kind: 'judged', slots, right: null };
      });
      const hidden: TrialDesign = { kind: 'self', slots: [plain(ref), plain(ref)], right: null };
      const again = (trial: TrialDesign): TrialDesign => ({ ...trial, kind: 'repeat' });
      return amongJudged(trials, controls.self ? [hidden] : [], controls.repeats, again, random);
    });
  },
  seconds: trialSeconds,
  refusal(answer) {
    if (!('places' in answer)) return WRONG_SHAPE;
    return answer.places.length === 1 ? null : 'Place the slip on the line, then confirm.';
  },
  section: 'against',
  line: {
    ends: ['worse than the reference', 'better'],
    said: { highest: 'stands highest', lowest: 'lowest', best: 'is placed best' },
  },
  buys: ({ seats, trials, among }) => {
    const candidates = Math.max(1, among - 1);
    return buysOfRatings(seats, trials / candidates);
  },
  power: placesPower(({ slots }) => slots.slice(1)),
  simulate: (listener, { trial, characters }) => {
    const [known, other] = worths(listener, trial, characters) as [number, number];
    return { places: [placeOf(listener, other - known)] };
  },
  observe(answer, { kind, chains }) {
    if (!('places' in answer) || kind === 'learning') return [];
    const [against, chain] = chains as [string, string];
    return [{ kind: 'rating', role: kind, chain, value: answer.places[0]!, against, scale: '' }];
  },
};
