import type { Random } from '@/core/signal/random';
import type { TrialDesign } from '@/core/tasks/task';
import { CODE_WORDS } from './words';

/** One code per chain all through, or fresh codes in each trial. */
export type CodeMode = 'fresh' | 'fixed';

/** A trial that needs words; chains by their index in the whole sitting. */
export interface Wordless {
  slots: TrialDesign['slots'];
  /** The same word all through would give the answer away. */
  freshWordsOnly: boolean;
}

/**
 * Gives every slot of every trial its code word. Fresh: words of a seat do not come again until all
 * were used. Fixed: one word per chain in the whole sitting; tasks that ask for sameness, and a clip that
 * comes twice in one trial, take words of their own that stand for no chain.
 * @param seats per seat, per trial
 * @returns words per seat, trial and slot; within a trial all differ
 */
export function codeTrials(
  seats: readonly (readonly Wordless[])[],
  chains: number,
  mode: CodeMode,
  random: Random,
): string[][][] {
  const words = random.shuffled(CODE_WORDS);
  const fixed = mode === 'fixed' ? words.slice(0, chains) : [];
  const free = mode === 'fixed' ? words.slice(chains) : words;
  return seats.map((trials) => {
    let left: string[] = [];
    return trials.map(({ slots, freshWordsOnly }) => {
      if (left.length < slots.length) left = random.shuffled(free);
      const seen = new Set<number>();
      return slots.map(({ chain }) => {
        const own = !freshWordsOnly && !seen.has(chain) ? fixed.at(chain) : undefined;
        seen.add(chain);
        return own ?? left.splice(0, 1)[0];
      });
    });
  });
}
