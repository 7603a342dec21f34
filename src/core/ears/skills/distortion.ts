import { saturation } from '@/core/processing/saturation';
import { energyOf, type Heard, dbFigure, type Skill, through, withAdded } from '../skill';

/** How hard the curve is driven of which the harmonics are taken. */
const DRIVE_DB = 0;

/** What the curve adds, without what it leaves of the sound itself. */
function harmonics(sound: Heard, sampleRateHz: number, even: boolean): Float64Array[] {
  const curve = even ? 'asymmetric' : 'symmetric';
  const bend = (heard: Heard) =>
    through(heard, [saturation(heard.length, sampleRateHz, { driveDb: DRIVE_DB, curve })]);
  const bent = bend(sound);
  if (even) {
    // The even part of a curve: what stays when the sound is turned over.
    const turned = bend(sound.map((samples) => samples.map((x) => -x)));
    return bent.map((samples, c) => samples.map((x, n) => (x + turned[c]![n]!) / 2));
  }
  const along =
    bent.reduce(
      (sum, samples, c) => sum + samples.reduce((own, x, n) => own + x * sound[c]![n]!, 0),
      0,
    ) / energyOf(sound);
  return bent.map((samples, c) => samples.map((x, n) => x - along * sound[c]![n]!));
}

export const distortion: Skill = {
  id: 'distortion',
  label: 'Distortion',
  hint: 'One of the three is rougher: harmonics were added to it.',
  axis: { scale: 'level', hardest: -70, easiest: -10 },
  unit: 'dB to the sound',
  figure: dbFigure,
  told: (figure) => `${figure} dB to the sound`,
  choices: {
    harmonics: {
      label: 'harmonics',
      words: { odd: 'odd', even: 'even' },
      start: 'odd',
    },
  },
  clips: 1,
  loud: false,
  change: ({ sound, sampleRateHz, amount, choices }) =>
    withAdded(sound, harmonics(sound, sampleRateHz, choices.harmonics === 'even'), amount),
};
