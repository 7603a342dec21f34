import type { Caution } from './caution';

/** Pieces after which listening tires and levels creep up, minutes. */
const LONG_MINUTES = 15;

export const longHeadphones: Caution = {
  id: 'long-headphones',
  title: 'Long work on headphones',
  applies: ({ headphoneMinutes }) => headphoneMinutes > LONG_MINUTES,
  text: 'Set the level once and low, rest every 15 minutes, and stop when ears ring or tire. A usual limit at work is 85 dBA for 8 hours, halved for every 3 dB more.',
  defersTo: 'local rules for noise at work, and a doctor when ears ring',
};
