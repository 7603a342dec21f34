import { judgementsNeeded } from '@/core/design/power';
import { type Character, FEATURES, type SimulatedListener } from '@/core/simulation/listeners';
import type { Answer, Planned, Simulated } from '../task';

/** Descriptions of each that tell 2 of 10 from 7 of 10: the sign test on those who tick for one only. */
const ONE_ONLY = 0.7 * 0.8 + 0.3 * 0.2;
const WORD_NEEDS = Math.ceil(judgementsNeeded((0.7 * 0.8) / ONE_ONLY) / ONE_ONLY);

export function buys({ seats, trials, among }: Planned): string {
  const per = (seats * trials) / among;
  return `Each recording is described ${per.toFixed(0)} times; a word that 2 of 10 tick for one and 7 of 10 for another shows with about ${WORD_NEEDS}, 8 times in 10, if it is the only word.`;
}

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
