import { amplitudeToDb, powerToDb, speedOfSoundMps } from '@/core/signal/units';

const { cos, PI, sqrt } = Math;

const radians = (deg: number) => (deg * PI) / 180;

/** Level at a distance from the level at 1 m, free field: L1m - 20·log10(d / 1 m), dB SPL. */
export function splAtDb(levelAt1MDb: number, distanceM: number): number {
  return levelAt1MDb - amplitudeToDb(distanceM);
}

/** Sensitivity at an angle relative to on-axis, linear with sign: p + (1-p)·cos θ. */
export function polarGain(p: number, angleDeg: number): number {
  return p + (1 - p) * cos(radians(angleDeg));
}

/** Share of diffuse sound taken, in power against an omni: mean of the squared pattern over the sphere. */
export function randomEnergyEfficiency(p: number): number {
  return p * p + (1 - p) ** 2 / 3;
}

/** How much farther than an omni it may stand for the same share of room: 1/√REE. */
export function distanceFactor(p: number): number {
  return 1 / sqrt(randomEnergyEfficiency(p));
}

/** Room sound against an omni at the same spot, dB. */
export function roomPickupDb(p: number): number {
  return powerToDb(randomEnergyEfficiency(p));
}

/**
 * Low-end rise of a first-order microphone near a small source, against the same microphone far
 * away, dB: |p + g·(1 + c/(jωr))| / |p + g| with g = (1-p)·cos θ (pressure gradient of a spherical
 * wave; Olson 1957). Null where the far response is a null.
 */
export function proximityDb(
  p: number,
  distanceM: number,
  frequencyHz: number,
  angleDeg = 0,
  temperatureC = 20,
): number | null {
  const gradient = (1 - p) * cos(radians(angleDeg));
  const far = p + gradient;
  if (Math.abs(far) < 1e-6) return null;
  const inverseKr = speedOfSoundMps(temperatureC) / (2 * PI * frequencyHz * distanceM);
  return amplitudeToDb(Math.hypot(far, gradient * inverseKr) / far);
}
