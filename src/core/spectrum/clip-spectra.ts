import type { Sound } from '@/core/signal/sound';
import { type Band, SIXTH_OCTAVES, THIRD_OCTAVES } from './bands';
import { levelsOfOther, type Spectra, spectraOfClips } from './spectra';
import { type BandDifference, bandDifferences } from './transfer';

export const RESOLUTIONS = { third: THIRD_OCTAVES, sixth: SIXTH_OCTAVES } as const;
export type Resolution = keyof typeof RESOLUTIONS;

/** Spectrum of a clip in each band, and what turns the reference into it. */
export type ClipSpectra = Record<
  Resolution,
  { levelsDb: (number | null)[]; against: BandDifference[] }
>;

const hundredth = (value: number | null) => (value === null ? null : Math.round(100 * value) / 100);

/** Pictures of clips that are aligned with their reference. */
export function clipSpectra(
  reference: Sound,
  clips: readonly Sound[],
  sampleRateHz: number,
): ClipSpectra[] {
  return spectraOfClips(reference, clips, sampleRateHz).map(curvesOf);
}

function curvesOf(spectra: Spectra): ClipSpectra {
  const of = (bands: readonly Band[]) => ({
    levelsDb: levelsOfOther(spectra, bands).map(hundredth),
    against: bandDifferences(spectra, bands).map(({ centerHz, differenceDb, coherence }) => ({
      centerHz,
      differenceDb: hundredth(differenceDb),
      coherence: Math.round(1000 * coherence) / 1000,
    })),
  });
  return { third: of(THIRD_OCTAVES), sixth: of(SIXTH_OCTAVES) };
}
