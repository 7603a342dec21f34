import type { Random } from './random';

/** Noise that falls by 3 dB an octave: one-pole sections whose corners lie a factor of 10 apart. */
export function pinkNoise(length: number, random: Random): Float64Array {
  const state = [0, 0, 0];
  return Float64Array.from({ length }, () => {
    const white = random.normal();
    state[0] = 0.99765 * state[0]! + 0.099046 * white;
    state[1] = 0.963 * state[1]! + 0.2965164 * white;
    state[2] = 0.57 * state[2]! + 1.0526913 * white;
    return state[0] + state[1] + state[2] + 0.1848 * white;
  });
}
