import type { Random } from '@/core/signal/random';
import type { TrialDesign } from '@/core/tasks/task';
import { CODE_WORDS } from './words';

/** One code per chain all through, or fresh codes in each trial. */
export type CodeMode = 'fresh' | 'fixed';

/** A trial that needs words; chains by their index in the whole sitting. */
export interface Wordless {
  slots: TrialDesign['slots'];
  /** Words that stand for no chain: the same one all through would give something away. */
  freshWords: boolean;
}

/**
 * Gives every slot of every trial its code word. Fresh: words of a seat do not come again until all
 * were used. Fixed: one word per chain in the whole sitting, but for trials that need fresh ones, whose words
 * stand for no chain.
 * @param seats per seat, per trial
 * @returns words per seat, trial and slot; within a trial all differ
 * @throws RangeError when a chain stands twice in a trial with fixed words: its second word would tell
 */
export function codeTrials(
  seats: readonly (readonly Wordless[])[],
  chains: number,
  mode: CodeMode,
  random: Random,
): string[][][] {
  const words = random.shuffled(CODE_WORDS);
  const fixed = mode === 'fixed' ? words.slice(0, chains) : [];
  const free = words.slice(fixed.length);
  return seats.map((trials) => {
    let left: string[] = [];
    return trials.map(({ slots, freshWords }) => {
      if (mode === 'fixed' && !freshWords) {
        if (new Set(slots.map(({ chain }) => chain)).size < slots.length) {
          throw new RangeError('a chain that stands twice in a trial needs fresh words');
        }
        return slots.map(({ chain }) => fixed[chain]!);
      }
      if (left.length < slots.length) left = random.shuffled(free);
      return left.splice(0, slots.length);
    });
  });
}
