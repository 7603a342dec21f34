import { amplitudeToDb, speedOfSoundMps } from '@/core/signal/units';
import { polarGain } from './acoustics';

const { PI, sin } = Math;

export interface StereoArray {
  /** First-order pattern of both microphones. */
  p: number;
  spacingM: number;
  /** Between the axes of the two microphones. */
  openingDeg: number;
}

/** Differences that move a phantom source all the way to one loudspeaker, each alone. */
export interface FullShift {
  levelDb: number;
  timeMs: number;
}
/** Within the range that listening tests gave: 15 to 18 dB, 1 to 1.5 ms (Leakey 1959, Wittek & Theile 2002). */
export const FULL_SHIFT: FullShift = { levelDb: 15, timeMs: 1.1 };

/** Level at which a null is held, so that differences stay finite, dB. */
const NULL_DB = -60;

export interface InterChannel {
  /** Right before left is positive, ms: d·sin θ / c. */
  timeMs: number;
  /** Right louder than left is positive, dB. */
  levelDb: number;
}

/** Inter-channel differences for a distant source at an angle right of the middle. */
export function interChannel(
  array: StereoArray,
  angleDeg: number,
  temperatureC = 20,
): InterChannel {
  const side = (offset: number) =>
    Math.max(NULL_DB, amplitudeToDb(polarGain(array.p, angleDeg + offset)));
  const half = array.openingDeg / 2;
  return {
    timeMs: (1000 * array.spacingM * sin((angleDeg * PI) / 180)) / speedOfSoundMps(temperatureC),
    levelDb: side(-half) - side(half),
  };
}

/** Share of the way to one loudspeaker: level and time shifts added; 1 is all the way. */
export function imageShift(difference: InterChannel, full = FULL_SHIFT): number {
  return difference.levelDb / full.levelDb + difference.timeMs / full.timeMs;
}

const STEP_DEG = 0.1;

/**
 * Recording angle in degrees, from edge to edge: sources within it fill the loudspeakers' base.
 * Null when even 90° to the side does not reach a loudspeaker.
 */
export function recordingAngleDeg(array: StereoArray, full = FULL_SHIFT): number | null {
  for (let angle = 0; angle <= 90; angle += STEP_DEG) {
    if (imageShift(interChannel(array, angle), full) >= 1) return 2 * angle;
  }
  return null;
}
