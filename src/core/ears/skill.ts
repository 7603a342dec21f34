import type { Choice } from '@/core/processing/stages/stage-kind';
import { amplifier, type Stage, throughStages } from '@/core/signal/stage';
import { blockOf, soundOf } from '@/core/signal/sound';
import { dbToAmplitude } from '@/core/signal/units';
import type { Random } from '@/core/signal/random';
import type { Axis } from './axis';

/** What can go wrong with a sound that somebody trains on, each in a sentence for them. */
export const EARS_REASONS = {
  short: 'This clip is too short to train on; choose one of a second or more.',
  silent: 'This clip is silent; there is nothing to train on. Choose another.',
  silentWith: 'This clip is silent with that; choose another.',
  nothing: 'This sound holds nothing of that kind; choose another.',
  notSibilant: 'This sound holds nothing sibilant; choose a voice.',
  lost: 'This session cannot be gone on with; begin another.',
  unmade: 'The sound could not be made; end this session and begin another.',
  unarrived: 'The sound did not arrive. Check the connection, then try again.',
} as const;
export type EarsReason = keyof typeof EARS_REASONS;

/** A sound that cannot be trained on. */
export class EarsError extends Error {
  constructor(readonly reason: EarsReason) {
    super(EARS_REASONS[reason]);
  }
}

/** A number as it is told, with so many digits after the point. */
export interface Figure {
  value: number;
  digits: number;
}

/** Sound in memory, one array of equal length per channel, ±1 = full scale, at the working loudness. */
export type Heard = readonly Float64Array[];

/** One trial's difference: what it is made on, and how large. */
export interface Change {
  sound: Heard;
  /** The other of two learned chains, as long as the sound; null where the skill takes one clip. */
  other: Heard | null;
  sampleRateHz: number;
  /** On the skill's axis. */
  amount: number;
  /** What was chosen for the session, by the keys of `choices`. */
  choices: Readonly<Record<string, string>>;
  /** Which way it goes where it can go two: 1 up, -1 down. */
  way: 1 | -1;
  /** For what is made by chance, such as noise. */
  random: Random;
}

/** Something that ears can get better at: everything that training asks of it. */
export interface Skill {
  id: string;
  label: string;
  /** What to listen for, in a sentence. */
  hint: string;
  axis: Axis;
  /** What its sizes are counted in, for the axis of a picture. */
  unit: string;
  /** The number by which a size is told. */
  figure: (amount: number) => Figure;
  /** A size around its number, as it is told in English: "1.2 dB to the sound". */
  told: (figure: string) => string;
  choices: Readonly<Record<string, Choice>>;
  /** Clips that it takes: the second is another chain's. */
  clips: 1 | 2;
  /** Whether loudness itself is what differs; of all others it is brought back to that of the plain sound. */
  loud: boolean;
  /** The sound with the difference; it may be of another loudness. */
  change: (change: Change) => Float64Array[];
}

/** Sound through stages, as long as it was. */
export function through(sound: Heard, stages: readonly Stage[]): Float64Array[] {
  const out = blockOf(sound.length, sound[0]!.length);
  throughStages(soundOf(sound), stages, (block, at) => {
    for (const [c, samples] of block.entries()) out[c]!.set(samples, at);
  });
  return out;
}

/** A copy so many dB louder. */
export const louder = (sound: Heard, db: number): Float64Array[] =>
  through(sound, [amplifier(dbToAmplitude(db))]);

/** Sum of squares over all channels. */
export function energyOf(sound: Heard): number {
  let sum = 0;
  for (const samples of sound) for (let n = 0; n < samples.length; n++) sum += samples[n]! ** 2;
  return sum;
}

/** What is added brought to a level against the sound, dB of mean power, and added. @throws EarsError for nothing to add */
export function withAdded(sound: Heard, added: Heard, levelDb: number): Float64Array[] {
  const own = energyOf(added);
  if (own <= 1e-12 * energyOf(sound)) throw new EarsError('nothing');
  const gain = dbToAmplitude(levelDb) * Math.sqrt(energyOf(sound) / own);
  return sound.map((samples, c) => samples.map((x, n) => x + gain * added[c]![n]!));
}

/** Decibels to a tenth, and small ones to a hundredth. */
export const dbFigure = (db: number): Figure => ({
  value: db,
  digits: Math.abs(db) < 0.95 ? 2 : 1,
});

const inEnglish = ({ value, digits }: Figure): string => value.toFixed(digits).replace('-', '−');

/** "0.30 dB", "1.2 dB", "−12.0 dB". */
export const inDb = (db: number): string => `${inEnglish(dbFigure(db))} dB`;

/** A size of a skill as it is told in English: "1.2 dB to the sound". */
export const sizeText = ({ figure, told }: Skill, amount: number): string =>
  told(inEnglish(figure(amount)));
