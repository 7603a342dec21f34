import {
  distanceFactor,
  polarGain,
  proximityDb,
  roomPickupDb,
  splAtDb,
} from '@/core/chain/acoustics';
import { PATTERN_NAMES, PATTERNS, type PatternName } from '@/core/chain/specs';
import { amplitudeToDb } from '@/core/signal/units';
import { db, logRange, type Tool } from './tool';

export const distance: Tool = {
  id: 'distance',
  title: 'Distance, pattern, proximity',
  about: 'How level, low end and room change with pattern, distance and angle.',
  fields: [
    { name: 'pattern', label: 'Pattern', usual: 'cardioid', choices: PATTERN_NAMES },
    { name: 'near', label: 'Distance, cm', usual: '15', range: [1, 1000] },
    { name: 'far', label: 'Against, cm', usual: '60', range: [1, 1000] },
    { name: 'angle', label: 'Angle, °', usual: '0', range: [-180, 180] },
  ],
  formulas: [
    'pattern: p + (1 − p)·cos θ;  share of the room: p² + (1 − p)² / 3;  distance factor: 1 / √share',
    'low-end rise: |p + g·(1 + c / (jωr))| / |p + g| with g = (1 − p)·cos θ (spherical wave)',
  ],
  answer(value, word) {
    const p = PATTERNS[word('pattern') as PatternName];
    const [near, far, angle] = [value('near') / 100, value('far') / 100, value('angle')];
    const off = amplitudeToDb(polarGain(p, angle));
    const rise = (r: number, hz: number) => proximityDb(p, r, hz, angle);
    const curve = (r: number) =>
      logRange(20, 2000, 60).flatMap((hz) => {
        const level = rise(r, hz);
        return level === null ? [] : [[hz, level] as const];
      });
    const at100 = rise(near, 100);
    return {
      finding:
        at100 === null
          ? 'This angle is a null of the pattern: hardly anything is heard there, and no rise can be told.'
          : `At ${value('near')} cm the low end is ${db(at100)} up at 100 Hz; at ${value('far')} cm ${db(rise(far, 100) ?? 0)}.`,
      lines: [
        ['Level, near against far', db(splAtDb(0, near) - splAtDb(0, far))],
        ['At this angle', Number.isFinite(off) ? db(Math.max(off, -60)) : 'nothing'],
        ['Room against an omni', db(roomPickupDb(p))],
        ['Distance factor', distanceFactor(p).toFixed(2)],
      ],
      figure: {
        x: 'frequency, Hz',
        y: 'low-end rise, dB',
        logX: true,
        curves: [
          { name: `${value('near')} cm`, points: curve(near) },
          { name: `${value('far')} cm`, points: curve(far) },
        ],
      },
    };
  },
};
