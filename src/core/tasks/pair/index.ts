import { buys, power, simulate } from './panel';
import { allPairs, pairOrders } from '@/core/design/orders';
import { amongJudged, controlTrials } from '../shared/controls';
import { PLAIN, plain, type Task, type TrialDesign, trialSeconds, WRONG_SHAPE } from '../task';

/** Paired comparison (ISO 5495), forced or with ties. */
export const pair: Task = {
  ...PLAIN,
  asksLiking: true,
  name: 'Which one?',
  shows: 'Two recordings; one is chosen, or neither where a tie is allowed.',
  proves:
    'Which of two is preferred, by how much and how surely; not how good either is, and nothing when nobody can tell them apart.',
  prompt: 'Which recording suits this part better?',
  tiesOffered: true,
  adaptable: true,
  offers: {
    self: { label: 'One clip against itself: who likes a place in the order', as: 'trial' },
    levelCatch: { label: 'One clip 1 dB louder: who follows loudness', as: 'trial' },
    repeats: { label: 'Asked twice', as: 'trial' },
  },
  proposes: ({ chains }) => ({ trials: allPairs(chains).length, words: [] }),
  clips: () => 2,
  practiceClips: 2,
  round: (chains) => allPairs(chains).length,
  orders(plan) {
    const names = plan.pair ?? Array.from({ length: plan.chains }, (_, i) => i);
    const controls = controlTrials(plan);
    const orders = pairOrders({ ...plan, chains: names.length });
    return orders.map((slots) => {
      const judged = slots.map(({ first, second }): TrialDesign => ({
        kind: 'judged',
        slots: [plain(names[first]!), plain(names[second]!)],
        right: null,
      }));
      // Asked again the other way round, so that liking a place shows as inconsistency.
      const again = (trial: TrialDesign): TrialDesign => ({
        ...trial,
        kind: 'repeat',
        slots: [...trial.slots].reverse(),
      });
      const { repeats } = plan.controls;
      return amongJudged(judged, controls.next().value, repeats, again, plan.random);
    });
  },
  seconds: trialSeconds,
  refusal(answer, { tiesAllowed }) {
    if (!('choice' in answer)) return WRONG_SHAPE;
    return answer.choice === 'tie' && !tiesAllowed
      ? 'This sitting asks for a choice; a tie is not allowed.'
      : null;
  },
  section: 'pair',
  buys,
  power,
  simulate,
  observe(answer, { kind, chains, gainsDb }) {
    if (!('choice' in answer) || kind === 'learning') return [];
    const response = ({ first: 'a', second: 'b', tie: 'tie' } as const)[answer.choice];
    const [chain, chainB] = chains as [string, string];
    const louder = kind === 'louder' ? (gainsDb[0]! > gainsDb[1]! ? 'a' : 'b') : '';
    return [{ kind: 'pair', role: kind, chain, chainB, first: 'a', response, louder }];
  },
  restore([said, ...more]) {
    // Who was heard first has to be known: a liking for a place would pass for one for a chain.
    if (said?.kind !== 'pair' || said.first === '' || more.length > 0) return null;
    const { chain, chainB, first, response } = said;
    const choice = response === 'tie' ? 'tie' : response === first ? 'first' : 'second';
    const chains = first === 'a' ? [chain, chainB] : [chainB, chain];
    return { chains, right: null, answer: { choice } };
  },
};
