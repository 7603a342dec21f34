import { deEsser } from '@/core/processing/dynamics';
import { dbToAmplitude } from '@/core/signal/units';
import { energyOf, EarsError, dbFigure, type Skill, through } from '../skill';

/** What a de-esser would take away is given more of instead. */
const DE_ESSER = { fromHz: 5500, thresholdDb: -30, mostDb: 12 } as const;
const TAKEN = 1 - dbToAmplitude(-DE_ESSER.mostDb);
/** Quieter than that against the sound, nothing sibilant is there. */
const LEAST_DB = -60;

export const sibilance: Skill = {
  id: 'sibilance',
  label: 'Sibilance',
  hint: 'One of the three has sharper consonants and breaths, above 5.5 kHz.',
  axis: { scale: 'ratio', hardest: 0.2, easiest: 12 },
  unit: 'dB',
  figure: dbFigure,
  told: (figure) => `${figure} dB`,
  choices: {},
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount }) => {
    const without = through(sound, [deEsser(sound.length, sampleRateHz, DE_ESSER)]);
    const sharp = sound.map((samples, c) => samples.map((x, n) => x - without[c]![n]!));
    if (energyOf(sharp) < dbToAmplitude(LEAST_DB) ** 2 * energyOf(sound))
      throw new EarsError('notSibilant');
    const gain = (dbToAmplitude(amount) - 1) / TAKEN;
    return sound.map((samples, c) => samples.map((x, n) => x + gain * sharp[c]![n]!));
  },
};
