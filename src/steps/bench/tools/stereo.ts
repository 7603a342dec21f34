import { PATTERN_NAMES, PATTERNS, type PatternName } from '@/core/chain/specs';
import { FULL_SHIFT, imageShift, interChannel, recordingAngleDeg } from '@/core/chain/stereo';
import { db, range, type Tool } from './tool';

export const stereo: Tool = {
  id: 'stereo',
  title: 'Stereo array',
  about: 'Where a source is heard between the loudspeakers, and how wide a stage fills them.',
  fields: [
    { name: 'pattern', label: 'Pattern', usual: 'cardioid', choices: PATTERN_NAMES },
    { name: 'spacing', label: 'Spacing, cm', usual: '20', range: [0, 1000] },
    { name: 'opening', label: 'Opening between the axes, °', usual: '100', range: [0, 360] },
    { name: 'angle', label: 'Source at, °', usual: '30', range: [-90, 90] },
    {
      name: 'level',
      label: 'Level that shifts all the way, dB',
      usual: String(FULL_SHIFT.levelDb),
      range: [5, 40],
    },
    {
      name: 'time',
      label: 'Time that does, ms',
      usual: String(FULL_SHIFT.timeMs),
      range: [0.3, 5],
    },
  ],
  formulas: [
    'Δt = d·sin θ / c;  ΔL from the pattern at θ ± half the opening',
    'shift = ΔL / (level for all the way) + Δt / (time for all the way); tests gave 15 to 18 dB and 1 to 1.5 ms',
  ],
  answer(value, word) {
    const array = {
      p: PATTERNS[word('pattern') as PatternName],
      spacingM: value('spacing') / 100,
      openingDeg: value('opening'),
    };
    const full = { levelDb: value('level'), timeMs: value('time') };
    const here = interChannel(array, value('angle'));
    const angle = recordingAngleDeg(array, full);
    const shift = Math.min(1, Math.max(-1, imageShift(here, full)));
    return {
      finding:
        angle === null
          ? 'Even a source at the side does not reach a loudspeaker: the picture stays narrow.'
          : `A stage of ${angle.toFixed(0)}° from edge to edge fills the loudspeakers.`,
      lines: [
        ['Between the channels in time', `${here.timeMs.toFixed(2)} ms`],
        ['Between the channels in level', db(here.levelDb)],
        [
          'Heard',
          `${Math.round(100 * Math.abs(shift))} % of the way to the ${shift < 0 ? 'left' : 'right'}`,
        ],
      ],
      figure: {
        x: 'source angle, °',
        y: 'share of the way to a loudspeaker, %',
        markX: value('angle'),
        curves: [
          {
            name: 'heard at',
            points: range(-90, 90, 91).map((theta) => {
              const at = imageShift(interChannel(array, theta), full);
              return [theta, 100 * Math.min(1, Math.max(-1, at))] as const;
            }),
          },
        ],
      },
    };
  },
};
