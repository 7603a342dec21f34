import { designBiquad, filterStage } from '@/core/signal/biquad';
import { dbFigure, type Skill, through } from '../skill';

/** Q of a bell whose bandwidth is so many octaves (R. Bristow-Johnson, as the filter itself). */
const Q_OF = { third: 4.318, one: 1.414, two: 0.667 } as const;
type Width = keyof typeof Q_OF;

export const band: Skill = {
  id: 'band',
  label: 'Boost and cut of a band',
  hint: 'One of the three has more, or less, around one frequency.',
  axis: { scale: 'ratio', hardest: 0.2, easiest: 12 },
  unit: 'dB',
  figure: dbFigure,
  told: (figure) => `${figure} dB`,
  choices: {
    centreHz: {
      label: 'around',
      words: {
        60: '60 Hz',
        125: '125 Hz',
        250: '250 Hz',
        500: '500 Hz',
        1000: '1 kHz',
        2000: '2 kHz',
        3000: '3 kHz',
        4000: '4 kHz',
        8000: '8 kHz',
        12000: '12 kHz',
      },
      start: '3000',
    },
    width: {
      label: 'width',
      words: { third: '1/3 octave', one: 'one octave', two: 'two octaves' },
      start: 'one',
    },
    way: {
      label: 'which way',
      words: { either: 'boost or cut', boost: 'boost', cut: 'cut' },
      start: 'either',
    },
  },
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount, choices, way }) => {
    const sign = choices.way === 'boost' ? 1 : choices.way === 'cut' ? -1 : way;
    const q = Q_OF[choices.width as Width];
    const bell = designBiquad('bell', Number(choices.centreHz), sampleRateHz, q, sign * amount);
    return through(sound, [filterStage(sound.length, [bell])]);
  },
};
