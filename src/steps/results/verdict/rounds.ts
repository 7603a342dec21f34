/** What somebody said in a round: the first of the two that they heard, the second, or neither. */
export type Said = 'first' | 'second' | 'neither';

export interface Tally {
  /** How often each of the two clips was chosen. */
  chosen: [number, number];
  neither: number;
  /**
   * How often one of two would be chosen at least so much more if nothing differed: twice the upper tail of a
   * binomial of one half over the rounds that were decided (exact test, two sides), at most 1.
   */
  chance: number;
}

/**
 * Counts the rounds of somebody who tries the pair.
 * @param swapped for each round whether the second clip was heard first
 */
export function tally(said: readonly Said[], swapped: readonly boolean[]): Tally {
  const chosen: [number, number] = [0, 0];
  for (const [round, one] of said.entries()) {
    if (one === 'neither') continue;
    chosen[(one === 'second') === Boolean(swapped[round]) ? 0 : 1]++;
  }
  const decided = chosen[0] + chosen[1];
  const most = Math.max(...chosen);
  let ways = 1;
  let upper = 0;
  // Summed here, since the distributions of the core would make the script of a file sixty times as long.
  // Ways to choose k of the rounds, from all of them downwards.
  for (let k = decided; k >= most; k--) {
    upper += ways;
    ways = (ways * k) / (decided - k + 1);
  }
  return {
    chosen,
    neither: said.length - decided,
    chance: Math.min(1, (2 * upper) / 2 ** decided),
  };
}
