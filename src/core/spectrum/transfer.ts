import { findAlignment } from '@/core/alignment/delay';
import { soundOf } from '@/core/signal/sound';
import { finiteOrNull, powerToDb } from '@/core/signal/units';
import { type Band, THIRD_OCTAVES } from './bands';
import { averagedSpectra, binsOf, type Spectra } from './spectra';

export interface BandDifference {
  centerHz: number;
  /** OTHER minus REF; null where the reference has nothing. */
  differenceDb: number | null;
  /** 0 … 1: how much of the other's power in the band follows from the reference. */
  coherence: number;
}

/** What turns one recording of a performance into another. */
export interface Transfer {
  delaySamples: number;
  polarityInverted: boolean;
  /** Between the two once aligned, 0 … 1: whether they are of one performance. */
  coherence: number;
  /** Power of what follows from the reference, against the reference, dB. */
  broadbandDb: number | null;
  bands: BandDifference[];
}

/**
 * Relative transfer function of two recordings of one performance: aligned, then H = Sxy / Sxx
 * (least squares with the noise in the other; Bendat & Piersol, *Random Data*), |H|² averaged over
 * each band. Coherence tells how far to believe it.
 */
export function relativeTransfer(
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  sampleRateHz: number,
  bands: readonly Band[] = THIRD_OCTAVES,
): Transfer {
  const { delaySamples, polarityInverted, coherence } = findAlignment(
    soundOf(reference),
    soundOf(other),
    sampleRateHz,
  );
  const spectra = averagedSpectra(reference, other, sampleRateHz, Math.round(delaySamples));
  return {
    delaySamples,
    polarityInverted,
    coherence,
    broadbandDb: broadband(spectra),
    bands: bandDifferences(spectra, bands),
  };
}

function broadband({ xx, re, im }: Spectra): number | null {
  let explained = 0;
  let total = 0;
  for (let k = 1; k < xx.length; k++) {
    if (xx[k]! <= 0) continue;
    explained += (re[k]! ** 2 + im[k]! ** 2) / xx[k]!;
    total += xx[k]!;
  }
  return total > 0 ? finiteOrNull(powerToDb(explained / total)) : null;
}

/** Differences of spectra that are aligned already. */
export function bandDifferences(spectra: Spectra, bands: readonly Band[]): BandDifference[] {
  const { xx, yy, re, im, sampleRateHz } = spectra;
  return bands
    .filter(({ fromHz }) => fromHz < sampleRateHz / 2)
    .map((band) => {
      const [first, last] = binsOf(spectra, band);
      let gain = 0;
      let counted = 0;
      let explained = 0;
      let total = 0;
      for (let k = first; k <= last; k++) {
        if (xx[k]! <= 0) continue;
        const cross = re[k]! ** 2 + im[k]! ** 2;
        gain += cross / xx[k]! ** 2;
        explained += cross / xx[k]!;
        total += yy[k]!;
        counted++;
      }
      return {
        centerHz: band.centerHz,
        differenceDb: counted > 0 ? finiteOrNull(powerToDb(gain / counted)) : null,
        coherence: total > 0 ? Math.min(1, explained / total) : 0,
      };
    });
}
