import { randomBytes } from 'node:crypto';
import { Random, type SecretSeed } from '@/core/signal/random';

const POOL_BYTES = 4096;

/**
 * Random numbers of the system's own generator. What listeners see of a sequence (words, places) tells nothing of
 * the rest, which a seeded generator's would.
 */
export function systemRandom(): Random {
  let pool = randomBytes(POOL_BYTES);
  let at = 0;
  return new Random({
    next: () => {
      if (at === POOL_BYTES) [pool, at] = [randomBytes(POOL_BYTES), 0];
      at += 4;
      return pool.readInt32LE(at - 4);
    },
  });
}

export const freshSeed = (): SecretSeed => randomBytes(16).toString('hex');
