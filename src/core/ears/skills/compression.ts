import { compressor } from '@/core/processing/dynamics';
import { type Skill, through } from '../skill';

const SETTINGS = { thresholdDb: -6, kneeDb: 6, attackMs: 10, releaseMs: 120 } as const;

export const compression: Skill = {
  id: 'compression',
  label: 'Compression',
  hint: 'One of the three is denser: its loud moments stand out less.',
  // The ratio less one.
  axis: { scale: 'ratio', hardest: 0.05, easiest: 9 },
  unit: 'ratio, less one',
  figure: (amount) => ({ value: 1 + amount, digits: amount < 1 ? 2 : 1 }),
  told: (figure) => `${figure} : 1`,
  choices: {},
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount }) =>
    through(sound, [compressor(sampleRateHz, { ...SETTINGS, ratio: 1 + amount })]),
};
