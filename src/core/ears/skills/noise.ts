import { dbFigure, type Skill, withAdded } from '../skill';

export const noise: Skill = {
  id: 'noise',
  label: 'Noise',
  hint: 'One of the three has a steady hiss under it.',
  axis: { scale: 'level', hardest: -80, easiest: -20 },
  unit: 'dB to the sound',
  figure: dbFigure,
  told: (figure) => `${figure} dB to the sound`,
  choices: {},
  clips: 1,
  loud: false,
  change: ({ sound, amount, random }) =>
    withAdded(
      sound,
      sound.map((samples) => samples.map(() => random.normal())),
      amount,
    ),
};
