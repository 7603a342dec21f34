import { designBiquad, filterStage } from '@/core/signal/biquad';
import { dbFigure, type Skill, through } from '../skill';

const TURNS_HZ = 800;
const Q = 0.4;

export const tilt: Skill = {
  id: 'tilt',
  label: 'Tilt',
  hint: 'One of the three is brighter, or darker, over its whole range.',
  axis: { scale: 'ratio', hardest: 0.2, easiest: 12 },
  unit: 'dB',
  figure: dbFigure,
  told: (figure) => `${figure} dB`,
  choices: {},
  clips: 1,
  loud: false,
  // Half of it below, half of it above: the size is the difference from the lowest to the highest.
  change: ({ sound, sampleRateHz, amount, way }) =>
    through(sound, [
      filterStage(sound.length, [
        designBiquad('lowshelf', TURNS_HZ, sampleRateHz, Q, (-way * amount) / 2),
        designBiquad('highshelf', TURNS_HZ, sampleRateHz, Q, (way * amount) / 2),
      ]),
    ]),
};
