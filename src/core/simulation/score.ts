import type { Random } from '@/core/signal/random';

/** One note of a part; a rest is a gap between notes. */
export interface Note {
  startS: number;
  lengthS: number;
  /** MIDI number, 69 = 440 Hz. */
  pitch: number;
  /** Loudness relative to the loudest note, dB. */
  levelDb: number;
  /** Sung syllable: consonant (or '') and vowel. */
  syllable?: [Consonant, Vowel];
}

export type Vowel = 'a' | 'e' | 'i' | 'o' | 'u';
export type Consonant = '' | 's' | 'f' | 'k' | 't' | 'm';
export type InstrumentName = 'contralto' | 'cello' | 'clarinet' | 'reader';

type Entry = [beats: number, pitch: number, levelDb: number, syllable?: string];

const BEAT_S = 0.72;

// A made-up slow tune in D minor; the words are no language.
const CONTRALTO: Entry[] = [
  [1.5, 57, -9, 'ma'],
  [0.5, 60, -8, 'ke'],
  [1, 62, -6, 'so'],
  [1, 60, -7, 'ti'],
  [2, 57, -8, 'na'],
  [1, 0, 0],
  [1, 62, -5, 'fa'],
  [0.5, 64, -4, 'su'],
  [0.5, 65, -3, 'ke'],
  [1.5, 67, 0, 'ta'],
  [0.5, 65, -3, 'si'],
  [2, 62, -5, 'mo'],
  [1, 60, -8, 'fe'],
  [3, 57, -10, 'ma'],
];
const CELLO: Entry[] = [
  [3, 38, -4],
  [3, 45, -5],
  [2, 41, -4],
  [2, 48, -3],
  [3, 43, -2],
  [3, 50, -1],
  [4, 38, -5],
];
const CLARINET: Entry[] = [
  [0.5, 0, 0],
  [1, 62, -6],
  [1, 65, -4],
  [0.5, 67, -4],
  [1.5, 69, -2],
  [1, 67, -4],
  [1, 65, -4],
  [2, 64, -5],
  [1, 62, -6],
  [2.5, 57, -5],
];
// Spoken: short syllables that fall in pitch, four sentences, in no language.
const READER: Entry[] = [
  [0.3, 57, -3, 'ta'],
  [0.22, 56, -5, 'ki'],
  [0.34, 58, 0, 'so'],
  [0.2, 55, -6, 'me'],
  [0.26, 55, -5, 'fa'],
  [0.3, 56, -2, 'tu'],
  [0.22, 53, -6, 'si'],
  [0.5, 51, -7, 'ma'],
  [0.8, 0, 0],
  [0.24, 58, -1, 'ke'],
  [0.3, 59, 0, 'sa'],
  [0.2, 56, -5, 'ti'],
  [0.28, 57, -3, 'mo'],
  [0.2, 55, -6, 'fe'],
  [0.34, 56, -2, 'ka'],
  [0.24, 54, -5, 'su'],
  [0.3, 53, -5, 'te'],
  [0.6, 50, -8, 'mo'],
  [0.9, 0, 0],
  [0.3, 57, -2, 'fi'],
  [0.24, 56, -4, 'ta'],
  [0.34, 58, 0, 'ko'],
  [0.22, 54, -5, 'se'],
  [0.55, 51, -7, 'ma'],
  [0.8, 0, 0],
  [0.26, 57, -3, 'so'],
  [0.3, 58, -1, 'ta'],
  [0.22, 55, -5, 'ke'],
  [0.34, 56, -2, 'fu'],
  [0.24, 55, -5, 'mi'],
  [0.3, 54, -4, 'sa'],
  [0.22, 53, -6, 'te'],
  [0.7, 50, -8, 'ma'],
];
const PARTS: Record<InstrumentName, Entry[]> = {
  contralto: CONTRALTO,
  cello: CELLO,
  clarinet: CLARINET,
  reader: READER,
};

/** A performance of a part: the notes with small human deviations of time, tuning and loudness. */
export function performPart(instrument: InstrumentName, random: Random): Note[] {
  const notes: Note[] = [];
  let atS = 0.4;
  for (const [beats, pitch, levelDb, syllable] of PARTS[instrument]) {
    const lengthS = beats * BEAT_S * (1 + 0.02 * random.normal());
    if (pitch > 0) {
      notes.push({
        startS: atS + 0.008 * random.normal(),
        lengthS: lengthS * 0.97,
        pitch: pitch + 0.04 * random.normal(),
        levelDb: levelDb + 0.5 * random.normal(),
        syllable: syllable
          ? [
              (/^[sfktm]/.test(syllable) ? syllable[0] : '') as Consonant,
              syllable[syllable.length - 1] as Vowel,
            ]
          : undefined,
      });
    }
    atS += lengthS;
  }
  return notes;
}
