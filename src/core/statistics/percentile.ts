/**
 * Between neighbours in order, straight (Hyndman & Fan 1996, definition 7).
 * @param sorted at least one value, the least first
 */
export function percentile(sorted: readonly number[], share: number): number {
  const at = share * (sorted.length - 1);
  const below = Math.floor(at);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below]! + (at - below) * (sorted[above]! - sorted[below]!);
}

/** @param values at least one, in any order */
export function medianOf(values: readonly number[]): number {
  return percentile(
    [...values].sort((x, y) => x - y),
    0.5,
  );
}
