import { dbFigure, louder, type Skill } from '../skill';

export const level: Skill = {
  id: 'level',
  label: 'Level steps',
  hint: 'One of the three is a little louder or quieter than the other two.',
  axis: { scale: 'ratio', hardest: 0.1, easiest: 6 },
  unit: 'dB',
  figure: dbFigure,
  told: (figure) => `${figure} dB`,
  choices: {},
  clips: 1,
  loud: true,
  change: ({ sound, amount, way }) => louder(sound, way * amount),
};
