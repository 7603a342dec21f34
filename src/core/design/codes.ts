import { Random } from '@/core/signal/random';
import type { PairSlot } from './orders';
import { CODE_WORDS } from './words';

/** One code per chain all through, or fresh codes in each trial. */
export type CodeMode = 'fresh' | 'fixed';

export interface CodedSlot extends PairSlot {
  firstWord: string;
  secondWord: string;
}

/**
 * Gives every clip of every trial its code word. Fresh: words of a seat do not come again until all
 * were used; fixed: one word per chain in the whole sitting. Both drawn from the seed.
 */
export function codeTrials(
  orders: readonly (readonly PairSlot[])[],
  chains: number,
  mode: CodeMode,
  seed: number,
): CodedSlot[][] {
  if (mode === 'fixed') {
    const words = Random.derived(seed, 'fixed words').shuffled(CODE_WORDS).slice(0, chains);
    return orders.map((slots) =>
      slots.map((slot) => ({
        ...slot,
        firstWord: words[slot.first],
        secondWord: words[slot.second],
      })),
    );
  }
  return orders.map((slots, seat) => {
    const random = Random.derived(seed, `words of seat ${seat}`);
    let left: string[] = [];
    return slots.map((slot) => {
      if (left.length < 2) left = random.shuffled(CODE_WORDS);
      const [firstWord, secondWord] = left.splice(0, 2);
      return { ...slot, firstWord, secondWord };
    });
  });
}
