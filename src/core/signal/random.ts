import { xoroshiro128plus, xoroshiro128plusFromState } from 'pure-rand/generator/xoroshiro128plus';

/** Gives 32 random bits at a time. */
export interface WordSource {
  next(): number;
}

/** 128 random bits as 32 hex digits. */
export type SecretSeed = string;
const SECRET_SEED = /^[0-9a-f]{32}$/;

/**
 * Seeded random numbers. Every random choice of the product comes from one of these, so that a
 * stored seed gives the same result again.
 */
export class Random {
  private readonly generator: WordSource;
  private spareNormal: number | null = null;

  /**
   * @param seed any safe integer, of which 32 bits count in the end; or the whole state as four 32-bit
   * words, not all zero, where nobody may find the sequence by trying seeds; or a source of words, where nobody
   * may work the sequence out from what he sees of it
   */
  constructor(seed: number | readonly [number, number, number, number] | WordSource) {
    if (typeof seed === 'object' && 'next' in seed) {
      this.generator = seed;
      return;
    }
    if (typeof seed !== 'number') {
      this.generator = xoroshiro128plusFromState(seed.map((word) => word | 0));
      return;
    }
    const high = Math.floor(seed / 0x100000000) | 0;
    this.generator = xoroshiro128plus((seed | 0) ^ Math.imul(high, 0x9e3779b1));
  }

  /**
   * A sequence that nobody finds by trying.
   * @param seed 128 bits as 32 hex digits, drawn by the system's generator
   * @throws RangeError for anything else
   */
  static secret(seed: SecretSeed): Random {
    if (!SECRET_SEED.test(seed)) throw new RangeError('a secret seed is 32 hex digits');
    const words: number[] = [0, 8, 16, 24].map((at) => parseInt(seed.slice(at, at + 8), 16) | 0);
    // A generator at zero would stay there; one word of the 2^128 stands for another.
    const [a, b, c, d] = words as [number, number, number, number];
    return new Random(a || b || c || d ? [a, b, c, d] : [1, 0, 0, 0]);
  }

  /** A stream of its own for a named purpose, independent of how much this one was used. */
  static derived(seed: number, purpose: string): Random {
    return new Random(hash32(purpose, seed | 0) ^ Math.floor(seed / 0x100000000));
  }

  /** Uniform in [0, 1) with 32 random bits. */
  uniform(): number {
    return (this.generator.next() >>> 0) / 0x100000000;
  }

  /** Triangular in (-1, 1): the difference of two uniforms of 16 bits; for dither. */
  triangular(): number {
    const bits = this.generator.next();
    return ((bits >>> 16) - (bits & 0xffff)) / 0x10000;
  }

  /** A seed for a stream of its own, as wide as this one's state. */
  secretSeed(): SecretSeed {
    const word = () => (this.generator.next() >>> 0).toString(16).padStart(8, '0');
    return word() + word() + word() + word();
  }

  /** Whole number 0 … count-1. */
  below(count: number): number {
    return Math.floor(this.uniform() * count);
  }

  /** Standard normal deviate (polar method of Marsaglia). */
  normal(): number {
    if (this.spareNormal !== null) {
      const spare = this.spareNormal;
      this.spareNormal = null;
      return spare;
    }
    for (;;) {
      const u = 2 * this.uniform() - 1;
      const v = 2 * this.uniform() - 1;
      const s = u * u + v * v;
      if (s > 0 && s < 1) {
        const factor = Math.sqrt((-2 * Math.log(s)) / s);
        this.spareNormal = v * factor;
        return u * factor;
      }
    }
  }

  /** A shuffled copy (Fisher and Yates). */
  shuffled<T>(items: readonly T[]): T[] {
    const copy = [...items];
    for (let i = copy.length - 1; i > 0; i--) {
      const j = this.below(i + 1);
      [copy[i], copy[j]] = [copy[j]!, copy[i]!];
    }
    return copy;
  }
}

/** 32-bit FNV-1a hash of text, started from a number; for deriving seeds, not for secrets. */
export function hash32(text: string, start = 0): number {
  let hash = 0x811c9dc5 ^ start;
  for (let i = 0; i < text.length; i++) {
    hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  }
  hash ^= hash >>> 15;
  hash = Math.imul(hash, 0x85ebca6b);
  return (hash ^ (hash >>> 13)) | 0;
}
