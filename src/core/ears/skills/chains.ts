import { type Skill } from '../skill';

export const chains: Skill = {
  id: 'chains',
  label: 'Two learned chains',
  hint: 'Two of the three are one chain; the third goes part of the way to the other.',
  axis: { scale: 'ratio', hardest: 0.02, easiest: 1 },
  unit: 'of the difference',
  figure: (amount) => ({ value: 100 * amount, digits: 0 }),
  told: (figure) => `${figure} % of the difference`,
  choices: {},
  clips: 2,
  loud: false,
  change: ({ sound, other, amount }) =>
    sound.map((samples, c) =>
      samples.map((x, n) => x + amount * ((other?.[c % other.length]![n] ?? x) - x)),
    ),
};
