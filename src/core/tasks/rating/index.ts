import { worths } from '@/core/simulation/listeners';
import { buysOfRatings, placesOf, placesPower } from '../shared/places-panel';
import { rounds } from '@/core/design/rounds';
import { linesOf, MOST_ON_A_LINE } from '../shared/lines';
import { PLAIN, plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from '../task';

/** All clips of a set on one line, worse to better; the reference is among them without a name. */
export const rating: Task = {
  ...PLAIN,
  asksLiking: true,
  name: 'On one line',
  shows: 'All recordings of a set as slips, to be placed on one line from worse to better.',
  proves:
    'An order of all with the size of the gaps, from few minutes; slight differences are told less surely than in pairs.',
  prompt: 'Place each recording: how well does it suit this part?',
  offers: { repeats: { label: 'One clip twice on the line: who is consistent', as: 'slot' } },
  proposes: ({ chains }) => ({ trials: Math.ceil(chains / MOST_ON_A_LINE), words: [] }),
  clips: (chains) => Math.min(chains, MOST_ON_A_LINE),
  practiceClips: 3,
  round: (chains) => Math.ceil(chains / MOST_ON_A_LINE),
  orders(plan) {
    const { chains, controls, pair, random } = plan;
    const all = pair ?? Array.from({ length: chains }, (_, i) => i);
    const repeated = rounds(all, random);
    const twice = (line: readonly number[]) => {
      let again = repeated.next().value;
      while (!line.includes(again)) again = repeated.next().value;
      return again;
    };
    const size = Math.min(all.length, MOST_ON_A_LINE);
    return linesOf(plan, all, size, controls.repeats > 0 ? twice : null).map((trials) =>
      trials.map((line): TrialDesign => ({
        kind: 'judged',
        slots: line.map(plain),
        right: null,
      })),
    );
  },
  seconds: trialSeconds,
  refusal(answer, { slots }) {
    if (!('places' in answer)) return WRONG_SHAPE;
    return answer.places.length === slots ? null : 'Place every slip on the line, then confirm.';
  },
  section: 'rating',
  line: {
    ends: ['worse', 'better for this part'],
    said: { highest: 'stands highest', lowest: 'lowest', best: 'is placed best' },
  },
  buys: ({ seats, trials, among }) =>
    buysOfRatings(seats, (trials * Math.min(among, MOST_ON_A_LINE)) / among),
  power: placesPower(({ slots }) => slots),
  simulate: (listener, { trial, characters }) => ({
    places: placesOf(listener, worths(listener, trial, characters)),
  }),
  observe(answer, { kind, chains }) {
    if (!('places' in answer) || kind === 'learning') return [];
    return answer.places.map((value, slot) => {
      const chain = chains[slot]!;
      // A slip that lies there twice is a repeat of itself.
      const role = chains.indexOf(chain) < slot ? 'repeat' : kind;
      return { kind: 'rating', role, chain, value, against: '', scale: '' };
    });
  },
  restore(said) {
    const placed = said.filter((one) => one.kind === 'rating');
    if (placed.length < said.length || placed.length > MOST_ON_A_LINE) return null;
    if (placed.some(({ against, scale }) => against !== '' || scale !== '')) return null;
    const chains = placed.map(({ chain }) => chain);
    if (new Set(chains).size < chains.length) return null;
    return { chains, right: null, answer: { places: placed.map(({ value }) => value) } };
  },
};
