import type { Random } from '@/core/signal/random';

/**
 * Blocks of fewer conditions than there are, so that all come equally often and every two meet about
 * equally often: each block is built one by one from what was used and met least (ties by chance).
 * Exactly balanced when a whole round of blocks is drawn for the sizes where such a design exists at
 * this length; otherwise within a few.
 * @returns `count` blocks of `size` indices below `conditions`
 * @throws RangeError when a block would hold more than there is
 */
export function incompleteBlocks(
  conditions: number,
  size: number,
  count: number,
  random: Random,
): number[][] {
  if (size > conditions || size < 1) throw new RangeError('a block holds at most all conditions');
  const used = new Array<number>(conditions).fill(0);
  const met = Array.from({ length: conditions }, () => new Array<number>(conditions).fill(0));
  return Array.from({ length: count }, () => {
    const block: number[] = [];
    while (block.length < size) {
      const least = random
        .shuffled(used.map((_, i) => i).filter((i) => !block.includes(i)))
        .map((i) => ({ i, cost: [used[i], block.reduce((sum, j) => sum + met[i]![j]!, 0)] }))
        .sort((x, y) => x.cost[0]! - y.cost[0]! || x.cost[1]! - y.cost[1]!)[0]!.i;
      for (const j of block) {
        met[least]![j]!++;
        met[j]![least]!++;
      }
      used[least]!++;
      block.push(least);
    }
    return block;
  });
}
