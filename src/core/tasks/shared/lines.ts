import { incompleteBlocks } from '@/core/design/blocks';
import { rounds } from '@/core/design/rounds';
import { williams, williamsRows } from '@/core/design/williams';
import type { Random } from '@/core/signal/random';

/** More slips than this on one line nobody keeps apart. */
export const MOST_ON_A_LINE = 8;

/**
 * Which chains lie on each line, in the order of their slips: of every seat, of every trial. Where a line cannot
 * hold all, each chain comes as often as every other.
 * @param size chains on one line
 * @param more one that a line holds beside them
 */
export function linesOf(
  {
    seats,
    trialsPerSeat,
    together = false,
    random,
  }: { seats: number; trialsPerSeat: number; together?: boolean; random: Random },
  chains: readonly number[],
  size: number,
  more: ((line: readonly number[]) => number) | null,
): number[][][] {
  const blocks = incompleteBlocks(chains.length, size, seats * trialsPerSeat, random);
  const slips = size + (more ? 1 : 0);
  // In one order for all, places count more than what follows what: the first rows alone give every slip each place.
  const places = together
    ? rounds(williams(slips).slice(0, slips), random)
    : williamsRows(slips, random);
  return Array.from({ length: seats }, (_, seat) =>
    Array.from({ length: trialsPerSeat }, (_, trial) => {
      const block = blocks[seat * trialsPerSeat + trial]!;
      // Where a line holds all, the rows alone give every chain each place; drawing them anew would undo that.
      const line =
        size === chains.length ? [...chains] : random.shuffled(block).map((i) => chains[i]!);
      if (more) line.push(more(line));
      return places.next().value.map((i) => line[i]!);
    }),
  );
}
