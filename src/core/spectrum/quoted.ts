import { FROM_HZ, TO_HZ } from './closest';
import type { BandDifference } from './transfer';

/** From here on a difference is believed. */
export const SURE_COHERENCE = 0.8;
/** Nearer to its noise, a band tells of the noise as well. */
export const OVER_NOISE_DB = 10;

/** A band of two clips: their levels, what turns the base into the other, and the noise of each where it is known. */
export interface ComparedBand extends BandDifference {
  levelDb: number | null;
  baseDb: number | null;
  noiseDb: number | null;
  baseNoiseDb: number | null;
}

/**
 * What turns one clip into another, when both were set against the same reference.
 * @param base null for the reference itself
 */
export function betweenTwo(
  one: readonly BandDifference[],
  base: readonly BandDifference[] | null,
): BandDifference[] {
  if (base === null) return [...one];
  return one.map(({ centerHz, differenceDb, coherence }) => {
    const other = base.find((band) => band.centerHz === centerHz);
    const otherDb = other?.differenceDb ?? null;
    return {
      centerHz,
      differenceDb: differenceDb === null || otherDb === null ? null : differenceDb - otherDb,
      coherence: Math.min(coherence, other?.coherence ?? 0),
    };
  });
}

const overNoise = (levelDb: number | null, noiseDb: number | null) =>
  levelDb !== null && (noiseDb === null || levelDb >= noiseDb + OVER_NOISE_DB);

/**
 * The largest difference that may stand in a heading: between 80 Hz and 12.5 kHz, with a coherence that is
 * believed, and where both clips stand well over their noise; null where no band does.
 */
export function quotedBand(
  bands: readonly ComparedBand[],
): { centerHz: number; differenceDb: number } | null {
  let largest: { centerHz: number; differenceDb: number } | null = null;
  for (const { centerHz, differenceDb, coherence, ...band } of bands) {
    if (differenceDb === null || coherence < SURE_COHERENCE) continue;
    if (centerHz < FROM_HZ || centerHz > TO_HZ) continue;
    if (!overNoise(band.levelDb, band.noiseDb) || !overNoise(band.baseDb, band.baseNoiseDb))
      continue;
    if (!largest || Math.abs(differenceDb) > Math.abs(largest.differenceDb)) {
      largest = { centerHz, differenceDb };
    }
  }
  return largest;
}
