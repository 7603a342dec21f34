import { simulatedPhrase } from '@/core/simulation/phrase';
import { pinkNoise } from '@/core/signal/noise';
import { Random } from '@/core/signal/random';
import type { MadeSound } from './made-sounds';
import type { Heard } from './skill';

export const MADE_RATE_HZ = 48_000;
const LENGTH_S = 5;
const SEED = 712;
const DISTANCE_M = 0.5;

/** One channel of some seconds. */
export function madeSound(sound: MadeSound): Heard {
  const frames = LENGTH_S * MADE_RATE_HZ;
  if (sound === 'noise') return [pinkNoise(frames, new Random(SEED)).map((x) => 0.05 * x)];
  const take = simulatedPhrase(sound, MADE_RATE_HZ, {
    seed: SEED,
    untilS: LENGTH_S,
    distanceM: DISTANCE_M,
  });
  return [take.slice(0, frames)];
}
