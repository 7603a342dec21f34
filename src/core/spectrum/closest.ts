import type { BandDifference } from './transfer';

/** The range where a recording's colour lies; below and above, level and noise decide. */
export const FROM_HZ = 80;
export const TO_HZ = 12_500;
/**
 * Below this, two clips may well be one to the ear: a broad change of about 1 dB is near what practised
 * listeners just hear (Toole & Olive 1988 on resonances), and takes of one chain differ by as much.
 */
export const DOUBTFUL_DB = 1.2;

/** Of each clip, what turns the reference into it, band by band. */
type Against = readonly BandDifference[];

/**
 * How far apart two spectra are: standard deviation over the bands of their difference, so that level does
 * not count. Null where fewer than three bands of the range are known.
 */
export function shapeDistanceDb(gaps: readonly { centerHz: number; db: number }[]): number | null {
  const inside = gaps.filter(({ centerHz }) => centerHz >= FROM_HZ && centerHz <= TO_HZ);
  if (inside.length < 3) return null;
  const mean = inside.reduce((sum, { db }) => sum + db, 0) / inside.length;
  return Math.sqrt(inside.reduce((sum, { db }) => sum + (db - mean) ** 2, 0) / inside.length);
}

/** Distance of two clips that were both set against the reference. */
export function spectralDistanceDb(a: Against, b: Against): number | null {
  return shapeDistanceDb(
    a.flatMap(({ centerHz, differenceDb }) => {
      const other = b.find((band) => band.centerHz === centerHz)?.differenceDb ?? null;
      return differenceDb === null || other === null
        ? []
        : [{ centerHz, db: differenceDb - other }];
    }),
  );
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
