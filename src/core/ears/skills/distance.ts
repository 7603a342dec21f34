import { MICROPHONES, proximitySection } from '@/core/simulation/microphones';
import { filterStage } from '@/core/signal/biquad';
import { type Skill, through } from '../skill';

const NEAR_M = 0.2;
const CARDIOID = { ...MICROPHONES[0]!, pattern: 0.5, flatAtM: NEAR_M };

export const distance: Skill = {
  id: 'distance',
  label: 'Distance',
  hint: 'One of the three has less low end, as of a cardioid that stands farther away.',
  // How much farther than 20 cm, as a share; the room's own part is left out.
  axis: { scale: 'ratio', hardest: 0.02, easiest: 4 },
  unit: 'times as far, less one',
  figure: (amount) => ({ value: 100 * NEAR_M * (1 + amount), digits: 0 }),
  told: (figure) => `${figure} cm for ${100 * NEAR_M} cm`,
  choices: {},
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount }) =>
    through(sound, [
      filterStage(sound.length, [
        proximitySection(CARDIOID, NEAR_M * (1 + amount), 0, sampleRateHz),
      ]),
    ]),
};
