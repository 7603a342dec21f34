import { responseDb } from '@/core/signal/biquad';
import { Random } from '@/core/signal/random';
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
export const FEATURES = ['warmth', 'presence', 'air', 'colour', 'noise'] as const;

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
  const mean = { ...characters[0]! };
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
export function choiceBetween(
  listener: SimulatedListener,
  first: number,
  second: number,
  tiesAllowed: boolean,
): 'first' | 'second' | 'tie' {
  const z = first - second + listener.orderBias;
  const weights = [Math.exp(z / 2), Math.exp(-z / 2), tiesAllowed ? listener.tieWeight : 0];
  const at = listener.random.uniform() * (weights[0]! + weights[1]! + weights[2]!);
  return at < weights[0]! ? 'first' : at < weights[0]! + weights[1]! ? 'second' : 'tie';
}

/** Log odds that one decibel more is worth to a listener. */
const LOUDNESS_WORTH = 0.5;

/** What each slot of a trial is worth to a listener, log odds. */
export function worths(
  { taste }: SimulatedListener,
  { slots }: { slots: readonly { gainDb: number }[] },
  characters: readonly Character[],
): number[] {
  return slots.map(({ gainDb }, i) => worth(characters[i]!, taste) + LOUDNESS_WORTH * gainDb);
}

export function distance(a: Character, b: Character): number {
  return Math.hypot(...FEATURES.map((feature) => a[feature] - b[feature]));
}
