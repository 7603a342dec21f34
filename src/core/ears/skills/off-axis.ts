import { designBiquad, filterStage } from '@/core/signal/biquad';
import { dbFigure, type Skill, through } from '../skill';

/** Made up after what large capsules commonly do: the treble goes, and a third of it around 2 kHz. */
const SHELF_HZ = 6000;
const DIP_HZ = 2000;
const DIP = 1 / 3;

export const offAxis: Skill = {
  id: 'off-axis',
  label: 'Off axis',
  hint: 'One of the three sounds as if the microphone were turned away: duller, a little hollow.',
  axis: { scale: 'ratio', hardest: 0.2, easiest: 12 },
  unit: 'dB of treble',
  figure: dbFigure,
  told: (figure) => `${figure} dB of treble`,
  choices: {},
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount }) =>
    through(sound, [
      filterStage(sound.length, [
        designBiquad('highshelf', SHELF_HZ, sampleRateHz, Math.SQRT1_2, -amount),
        designBiquad('bell', DIP_HZ, sampleRateHz, 1, -DIP * amount),
      ]),
    ]),
};
