import { distance } from '@/core/simulation/listeners';
import { linesOf, MOST_ON_A_LINE } from '../shared/lines';
import { buysOfRatings, placesPower } from '../shared/places-panel';
import { PLAIN, plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from '../task';

const SCALE = 'likeness';
/** Difference in character at which a simulated listener finds little in common, and how their hand scatters. */
const APART = 6;
const PLACING_SCATTER = 9;

const candidatesOf = (chains: number) => Math.max(1, chains - 1);
/** Candidates on one line; one place is kept for the hidden reference. */
const onOneLine = (chains: number) => Math.min(candidatesOf(chains), MOST_ON_A_LINE - 1);

/** How near each comes to one known sound: all on one line from unlike to alike, the reference playable at will. */
export const likeness: Task = {
  ...PLAIN,
  name: 'How near?',
  shows:
    'The reference, named as such and playable at will, and the others as slips, to be placed on one line from unlike to alike.',
  proves:
    'Which comes nearest to one known sound, and how far the others stay from it; not which is better, and a slip near the upper end may still be told apart.',
  prompt: 'How near does each come to the reference?',
  pairLabels: null,
  freshWordsOnly: true,
  namesReference: true,
  offers: { self: { label: 'The reference hidden among the others: what “alike” is', as: 'slot' } },
  proposes: ({ chains }) => ({
    trials: Math.ceil(candidatesOf(chains) / onOneLine(chains)),
    words: [],
  }),
  clips: (chains) => 1 + onOneLine(chains),
  practiceClips: 3,
  round: (chains) => Math.ceil(candidatesOf(chains) / onOneLine(chains)),
  orders(plan) {
    const { chains, controls, reference } = plan;
    const candidates = Array.from({ length: chains }, (_, i) => i).filter((i) => i !== reference);
    const hidden = controls.self ? () => reference : null;
    return linesOf(plan, candidates, onOneLine(chains), hidden).map((trials) =>
      trials.map((line): TrialDesign => ({
        kind: 'judged',
        slots: [reference, ...line].map(plain),
        right: null,
      })),
    );
  },
  seconds: trialSeconds,
  refusal(answer, { slots }) {
    if (!('places' in answer)) return WRONG_SHAPE;
    return answer.places.length === slots - 1
      ? null
      : 'Place every slip on the line, then confirm.';
  },
  section: 'rating',
  line: {
    ends: ['unlike the reference', 'alike'],
    said: { highest: 'comes nearest', lowest: 'least near', best: 'is shown to come nearest' },
  },
  observe(answer, { kind, chains: [against = '', ...placed] }) {
    if (!('places' in answer) || kind === 'learning') return [];
    return answer.places.map((value, i) => {
      const chain = placed[i]!;
      const role = chain === against ? 'self' : kind;
      return { kind: 'rating', role, chain, value, against, scale: SCALE };
    });
  },
  buys({ seats, trials, among }) {
    const candidates = candidatesOf(among);
    const each = (trials * onOneLine(among)) / candidates;
    return buysOfRatings(seats, each);
  },
  power: placesPower(({ slots }) => slots.slice(1)),
  simulate({ random }, { characters: [known, ...others] }) {
    return {
      places: others.map((other) => {
        const place = 100 * Math.exp(-distance(known!, other) / APART);
        const set = Math.round(place + PLACING_SCATTER * random.normal());
        return Math.min(100, Math.max(0, set));
      }),
    };
  },
};
