/** A slip on the line: its slot, and its place from 0 (worse) to 100 (better). */
export interface Placed {
  slot: number;
  place: number;
}

/**
 * Rows above a horizontal line, so that no slip covers another: each takes the lowest row that is free
 * around its place.
 * @param gap least distance of two slips in one row, in points
 * @returns row per slot, 0 nearest to the line
 */
export function rowsAbove(placed: readonly Placed[], gap: number): Map<number, number> {
  const rows: number[][] = [];
  const found = new Map<number, number>();
  for (const { slot, place } of placed) {
    let row = 0;
    while (rows[row]?.some((other) => Math.abs(other - place) < gap)) row++;
    (rows[row] ??= []).push(place);
    found.set(slot, row);
  }
  return found;
}

/**
 * Heights beside a vertical line, from 0 (top, better) to 100: as near to each slip's own height as can
 * be without covering another.
 * @param gap least distance, in points; less when there is no room for so much
 */
export function heightsBeside(placed: readonly Placed[], gap: number): Map<number, number> {
  const sorted = placed
    .map(({ slot, place }) => ({ slot, at: 100 - place }))
    .sort((x, y) => x.at - y.at || x.slot - y.slot);
  const step = sorted.length > 1 ? Math.min(gap, 100 / (sorted.length - 1)) : gap;
  sorted.forEach((one, i) => {
    if (i > 0) one.at = Math.max(one.at, sorted[i - 1]!.at + step);
  });
  for (let i = sorted.length - 1, limit = 100; i >= 0; i--, limit -= step) {
    sorted[i]!.at = Math.min(sorted[i]!.at, limit);
  }
  return new Map(sorted.map(({ slot, at }) => [slot, at]));
}
