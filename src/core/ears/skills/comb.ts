import { dbToAmplitude } from '@/core/signal/units';
import { dbFigure, type Skill } from '../skill';

export const comb: Skill = {
  id: 'comb',
  label: 'Delay and comb',
  hint: 'One of the three has a copy of itself a moment later: hollow, as by a table under it.',
  axis: { scale: 'level', hardest: -40, easiest: -2 },
  unit: 'dB, the copy',
  figure: dbFigure,
  told: (figure) => `a copy at ${figure} dB`,
  choices: {
    delayMs: {
      label: 'later by',
      words: { 0.5: '0.5 ms', 1: '1 ms', 3: '3 ms', 10: '10 ms', 30: '30 ms' },
      start: '1',
    },
  },
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount, choices }) => {
    const late = Math.round((Number(choices.delayMs) / 1000) * sampleRateHz);
    const gain = dbToAmplitude(amount);
    return sound.map((samples) => samples.map((x, n) => x + gain * (samples[n - late] ?? 0)));
  },
};
