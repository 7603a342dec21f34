import type { BandDifference } from './transfer';

/** The range where a recording's colour lies; below and above, level and noise decide. */
const FROM_HZ = 80;
const TO_HZ = 12_500;
/**
 * Below this, two clips may well be one to the ear: a broad change of about 1 dB is near what practised
 * listeners just hear (Toole & Olive 1988 on resonances), and takes of one chain differ by as much.
 */
export const DOUBTFUL_DB = 1.2;

/** Of each clip, what turns the reference into it, band by band. */
type Against = readonly BandDifference[];

/**
 * How far apart two clips' spectra are: standard deviation over the bands of their difference, so that
 * level, which is matched, does not count. Null where fewer than three bands are known of both.
 */
export function spectralDistanceDb(a: Against, b: Against): number | null {
  const gaps = a.flatMap(({ centerHz, differenceDb }) => {
    const other = b.find((band) => band.centerHz === centerHz)?.differenceDb ?? null;
    if (centerHz < FROM_HZ || centerHz > TO_HZ || differenceDb === null || other === null) {
      return [];
    }
    return [differenceDb - other];
  });
  if (gaps.length < 3) return null;
  const mean = gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length;
  return Math.sqrt(gaps.reduce((sum, gap) => sum + (gap - mean) ** 2, 0) / gaps.length);
}

/** The two clips that are hardest to tell apart by their spectra; null where nothing is known. */
export function closestPair(
  clips: readonly (Against | null)[],
): { pair: [number, number]; distanceDb: number } | null {
  let closest: { pair: [number, number]; distanceDb: number } | null = null;
  clips.forEach((a, i) =>
    clips.slice(i + 1).forEach((b, k) => {
      const distanceDb = a && b ? spectralDistanceDb(a, b) : null;
      if (distanceDb === null || (closest && closest.distanceDb <= distanceDb)) return;
      closest = { pair: [i, i + 1 + k], distanceDb };
    }),
  );
  return closest;
}
