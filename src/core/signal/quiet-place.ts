const { abs, floor, max, min, round } = Math;

/**
 * The quietest place near a moment of a drawn take, for cutting between sounds.
 * @param peaks largest magnitude per slot
 * @param reachS how far it may lie away
 * @returns seconds; the nearest of equally quiet ones
 */
export function quietPlace(
  peaks: readonly number[],
  peaksPerS: number,
  atS: number,
  reachS: number,
): number {
  const at = round(atS * peaksPerS);
  const from = max(0, at - floor(reachS * peaksPerS));
  const to = min(peaks.length - 1, at + floor(reachS * peaksPerS));
  let best = min(max(at, 0), peaks.length - 1);
  for (let slot = from; slot <= to; slot++) {
    const quieter = peaks[slot]! < peaks[best]!;
    if (quieter || (peaks[slot] === peaks[best] && abs(slot - at) < abs(best - at))) best = slot;
  }
  return best < 0 ? atS : (best + 0.5) / peaksPerS;
}
