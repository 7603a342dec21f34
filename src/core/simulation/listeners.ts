import { responseDb } from '@/core/signal/biquad';
import { Random } from '@/core/signal/random';
import { GUESS, rightShare } from '@/core/statistics/psychometric';
import type { Answer, TaskId, TrialDesign } from '@/core/tasks/task';
import { type MicrophoneModel, microphoneSections, proximitySection } from './microphones';
import type { PreampModel } from './preamps';

/** What a simulated listener hears of a chain: tonal balance in dB against 1 kHz, and colour. */
export interface Character {
  warmth: number;
  presence: number;
  air: number;
  colour: number;
  noise: number;
}

const RATE_HZ = 48000;
const FEATURES = ['warmth', 'presence', 'air', 'colour', 'noise'] as const;

/** The character of a simulated chain at a distance, from its models. */
export function characterOf(
  microphone: MicrophoneModel,
  preamp: PreampModel,
  distanceM: number,
): Character {
  const sections = [
    ...microphoneSections(microphone, RATE_HZ),
    proximitySection(microphone, distanceM, 0, RATE_HZ),
  ];
  const at = (hz: number) =>
    responseDb(sections, hz, RATE_HZ) - responseDb(sections, 1000, RATE_HZ);
  return {
    warmth: (at(150) + at(220) + at(320)) / 3,
    presence: (at(2500) + at(3500) + at(4500)) / 3,
    air: (at(7500) + at(10000) + at(12500)) / 3,
    colour: (preamp.harmonicsDb[0] + 100) / 10,
    noise: (microphone.selfNoiseDba - 10) / 3,
  };
}

/** The middle of several characters. */
export function meanCharacter(characters: readonly Character[]): Character {
  const mean = { ...characters[0] };
  for (const feature of FEATURES) {
    mean[feature] = characters.reduce((sum, one) => sum + one[feature], 0) / characters.length;
  }
  return mean;
}

export type Taste = Character;

export interface SimulatedListener {
  taste: Taste;
  /** Log odds for the clip presented first, all else equal. */
  orderBias: number;
  /** Weight of a tie. */
  tieWeight: number;
  random: Random;
}

/** A panel that shares a mean taste, each with a deviation of their own. */
export function simulatedPanel(
  listeners: number,
  mean: Taste,
  spread: number,
  seed: number,
): SimulatedListener[] {
  return Array.from({ length: listeners }, (_, i) => {
    const random = Random.derived(seed, `listener ${i}`);
    const taste = { ...mean };
    for (const feature of FEATURES) taste[feature] += spread * random.normal();
    return {
      taste,
      orderBias: 0.1 + 0.15 * random.normal(),
      tieWeight: Math.exp(-1.2 + 0.3 * random.normal()),
      random,
    };
  });
}

function worth(character: Character, taste: Taste): number {
  return FEATURES.reduce((sum, feature) => sum + taste[feature] * character[feature], 0);
}

/** One choice, drawn from the model of Davidson (1970) with an order effect. */
function choiceBetween(
  listener: SimulatedListener,
  first: number,
  second: number,
  tiesAllowed: boolean,
): 'first' | 'second' | 'tie' {
  const z = first - second + listener.orderBias;
  const weights = [Math.exp(z / 2), Math.exp(-z / 2), tiesAllowed ? listener.tieWeight : 0];
  const at = listener.random.uniform() * (weights[0] + weights[1] + weights[2]);
  return at < weights[0] ? 'first' : at < weights[0] + weights[1] ? 'second' : 'tie';
}

/** Log odds that one decibel more is worth to a listener. */
const LOUDNESS_WORTH = 0.5;
const POINTS_PER_LOG_ODDS = 14;
const PLACING_SCATTER = 9;
/** d′ per unit of difference in character, and what of it is left without the other beside it. */
const DISTANCE_SCALE = 0.35;
const REMEMBERED = 0.7;
/** d′ per unit of difference in presence and air, where the brighter is asked for. */
const BRIGHT_SCALE = 0.5;

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

function distance(a: Character, b: Character): number {
  return Math.hypot(...FEATURES.map((feature) => a[feature] - b[feature]));
}

function simulatedSlot(
  listener: SimulatedListener,
  share: number,
  right: number,
  slots: readonly number[],
): Answer {
  if (listener.random.uniform() < share) return { slot: right };
  const wrong = slots.filter((slot) => slot !== right);
  return { slot: wrong[listener.random.below(wrong.length)] };
}

function simulatedWords(
  listener: SimulatedListener,
  character: Character,
  mean: Character,
  words: readonly string[],
): Answer {
  return {
    words: words.filter((word) => {
      const signs = WORD_SIGNS[word] ?? {};
      const z = FEATURES.reduce(
        (sum, feature) => sum + (signs[feature] ?? 0) * (character[feature] - mean[feature]),
        RARE_WORD,
      );
      return listener.random.uniform() < 1 / (1 + Math.exp(-z));
    }),
  };
}

/**
 * One answer of a simulated listener to a trial of any task; made up for demonstration and practice.
 * @param characters of the trial's slots; for a task from memory, of the two learned clips
 * @param mean character of all chains, which words are measured against
 */
export function simulatedAnswer(
  listener: SimulatedListener,
  task: TaskId,
  trial: TrialDesign,
  characters: readonly Character[],
  asked: { tiesAllowed: boolean; words: readonly string[]; mean: Character },
): Answer {
  const { random, taste } = listener;
  const worths = trial.slots.map(
    ({ gainDb }, i) => worth(characters[i], taste) + LOUDNESS_WORTH * gainDb,
  );
  const place = (value: number) =>
    Math.min(100, Math.max(0, Math.round(50 + value + PLACING_SCATTER * random.normal())));
  switch (task) {
    case 'pair':
      return { choice: choiceBetween(listener, worths[0], worths[1], asked.tiesAllowed) };
    case 'line': {
      const centre = worths.reduce((a, b) => a + b, 0) / worths.length;
      return { places: worths.map((one) => place(POINTS_PER_LOG_ODDS * (one - centre))) };
    }
    case 'reference':
      return { places: [place(POINTS_PER_LOG_ODDS * (worths[1] - worths[0]))] };
    case 'duo-trio':
    case 'triangle': {
      const others = characters.map((one) => distance(one, characters[trial.right ?? 0]));
      const share = rightShare(task, DISTANCE_SCALE * Math.max(...others));
      const slots = trial.slots.map((_, slot) => slot).slice(task === 'duo-trio' ? 1 : 0);
      return simulatedSlot(listener, share, trial.right ?? 0, slots);
    }
    case 'two-interval': {
      const right = trial.right ?? 0;
      const bright = characters.map(({ presence, air }) => presence + air);
      const more = BRIGHT_SCALE * (bright[right] - bright[1 - right]);
      const share = more > 0 ? rightShare('two-interval', more) : GUESS['two-interval'];
      return simulatedSlot(listener, share, right, [0, 1]);
    }
    case 'memory': {
      if (trial.kind === 'learning') return { learned: true };
      const d = REMEMBERED * DISTANCE_SCALE * distance(characters[0], characters[1]);
      return simulatedSlot(listener, rightShare('two-interval', d), trial.right ?? 0, [0, 1]);
    }
    case 'words':
      return simulatedWords(listener, characters[0], asked.mean, asked.words);
  }
}
