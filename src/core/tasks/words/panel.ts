import { type Character, FEATURES, type SimulatedListener } from '@/core/simulation/listeners';
import { listenersOf } from '../shared/panel';
import type { Answer, Planned, Power, Simulated } from '../task';

export function buys({ seats, trials, among }: Planned): string {
  const per = (seats * trials) / among;
  return `Each recording is described about ${per.toFixed(0)} times, by ${listenersOf(seats)}.`;
}

/** How often a word is ticked that fits no recording more than another, and how much listeners differ in that. */
const RARELY = 0.2;
const LENIENCY_SPREAD = 0.5;

/** Whether the first word of the list is found to go with one recording; all others go with none. */
export const power: Power = {
  stated: {
    label: 'given one word in',
    unit: '% of descriptions, the others in 20 %',
    value: 60,
    least: 21,
    most: 99,
    times: 0.01,
  },
  names: ({ words }) => (words[0] ?? '').trim().toLowerCase(),
  listener({ words, effect }, random) {
    const leniency = LENIENCY_SPREAD * random.normal();
    const ticks = (share: number) =>
      random.uniform() < 1 / (1 + Math.exp(-Math.log(share / (1 - share)) - leniency));
    return ({ slots }) => ({
      words: words.filter((_, i) => ticks(i === 0 && slots[0]!.chain === 0 ? effect : RARELY)),
    });
  },
};

/** What of a character makes a word likely; in log odds. */
const WORD_SIGNS: Record<string, Partial<Character>> = {
  warm: { warmth: 0.7 },
  full: { warmth: 0.5 },
  boomy: { warmth: 0.4 },
  thin: { warmth: -0.6 },
  bright: { presence: 0.5, air: 0.4 },
  airy: { air: 0.6 },
  dark: { air: -0.5, presence: -0.3 },
  dull: { air: -0.5 },
  forward: { presence: 0.6 },
  harsh: { presence: 0.6 },
  noisy: { noise: 0.8 },
};
const RARE_WORD = -1.6;

export function simulate(
  { random }: SimulatedListener,
  { characters: [character], mean, words }: Simulated,
): Answer {
  return {
    words: words.filter((word) => {
      const signs = WORD_SIGNS[word] ?? {};
      const z = FEATURES.reduce(
        (sum, feature) => sum + (signs[feature] ?? 0) * (character![feature] - mean[feature]),
        RARE_WORD,
      );
      return random.uniform() < 1 / (1 + Math.exp(-z));
    }),
  };
}
