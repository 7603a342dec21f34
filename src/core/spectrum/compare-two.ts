import { type Alignment, SAME_PERFORMANCE_COHERENCE } from '@/core/alignment/delay';
import { readAt } from '@/core/signal/interpolation';
import { finiteOrNull, meanSquare, powerToDb } from '@/core/signal/units';
import { THIRD_OCTAVES } from './bands';
import { bandLevels } from './spectra';
import { type BandDifference, relativeTransfer } from './transfer';

const { ceil, floor, max, min } = Math;

/** Two recordings, side by side. */
export interface Comparison extends Alignment {
  /** Of one performance; else only average spectra are set against each other, and nothing is subtracted. */
  samePerformance: boolean;
  /** What follows from the reference over the reference, dB; of two performances average level over average level. */
  levelDb: number | null;
  /** 63 to 200 Hz and 5 to 12.5 kHz against 630 Hz to 1.6 kHz: the other's tilt less the reference's, dB. */
  lowTiltDb: number | null;
  highTiltDb: number | null;
  /** By third: the other less the reference, the level kept in it; coherence 0 where performances differ. */
  bands: BandDifference[];
  /** What is left of the other when the reference, at its best delay and gain, is taken from it, dB; null as above. */
  nullDb: number | null;
  /** Of two channels: level of their difference over that of their sum, dB, in each recording. */
  width: { referenceDb: number | null; otherDb: number | null } | null;
}

/** What is left of one recording without the other, and at which gain the other was taken away. */
export interface Residual {
  channels: Float64Array[];
  gain: number;
  nullDb: number | null;
}

function meanDb(bands: readonly BandDifference[], fromHz: number, toHz: number): number | null {
  const known = bands.flatMap(({ centerHz, differenceDb }) =>
    differenceDb !== null && centerHz >= fromHz && centerHz <= toHz ? [differenceDb] : [],
  );
  return known.length === 0 ? null : known.reduce((sum, db) => sum + db, 0) / known.length;
}

const difference = (a: number | null, b: number | null) =>
  a === null || b === null ? null : a - b;

/** Level of the difference of two channels over that of their sum, dB: -∞ is mono, 0 as wide as two strangers. */
function widthDb([left, right]: readonly Float64Array[]): number | null {
  if (!left || !right) return null;
  const sum = meanSquare([left.map((x, n) => x + right[n]!)]);
  const apart = meanSquare([left.map((x, n) => x - right[n]!)]);
  return sum > 0 && apart > 0 ? powerToDb(apart / sum) : null;
}

/**
 * Takes one recording out of another: the other is read where the reference is (between samples), and the reference
 * at the gain with the least squares is subtracted. Channels share delay and gain.
 */
export function residualOf(
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  { delaySamples }: Pick<Alignment, 'delaySamples'>,
): Residual {
  const frames = reference[0]?.length ?? 0;
  const late = delaySamples;
  const end = min(frames, floor((other[0]?.length ?? 0) - late));
  const from = max(0, ceil(-late));
  const length = max(0, end - from);
  const heard = other.map((samples) => readAt(samples, from + late, length));
  const taken = reference.map((samples) => samples.subarray(from, from + length));
  let cross = 0;
  let own = 0;
  for (let c = 0; c < min(heard.length, taken.length); c++) {
    const [x, z] = [taken[c]!, heard[c]!];
    for (let n = 0; n < length; n++) {
      cross += x[n]! * z[n]!;
      own += x[n]! * x[n]!;
    }
  }
  const gain = own > 0 ? cross / own : 0;
  const channels = heard.map((z, c) => {
    const x = taken[c];
    return x ? z.map((value, n) => value - gain * x[n]!) : z;
  });
  const [left, whole] = [meanSquare(channels), meanSquare(heard)];
  return { channels, gain, nullDb: whole > 0 ? finiteOrNull(powerToDb(left / whole)) : null };
}

/** Average spectra against each other, where nothing follows from anything. */
function averageDifferences(
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  sampleRateHz: number,
): BandDifference[] {
  const [own, others] = [reference, other].map((one) =>
    bandLevels(one, sampleRateHz, THIRD_OCTAVES),
  );
  return THIRD_OCTAVES.map(({ centerHz }, i) => ({
    centerHz,
    differenceDb: difference(others![i] ?? null, own![i] ?? null),
    coherence: 0,
  }));
}

/**
 * Sets any two recordings against each other, with the level that they have. Of one performance: delay, polarity,
 * transfer by third with its coherence, and what is left when one is taken from the other. Of two: average spectra.
 * @param reference channels, ±1 = full scale, as many as the other has
 */
export function compareTwo(
  reference: readonly Float64Array[],
  other: readonly Float64Array[],
  sampleRateHz: number,
): Comparison {
  const transfer = relativeTransfer(reference, other, sampleRateHz);
  const { delaySamples, polarityInverted, coherence } = transfer;
  const samePerformance = coherence >= SAME_PERFORMANCE_COHERENCE;
  const bands = samePerformance
    ? transfer.bands
    : averageDifferences(reference, other, sampleRateHz);
  const middle = meanDb(bands, 630, 1600);
  const [own, others] = [meanSquare(reference), meanSquare(other)];
  const averageDb = own > 0 && others > 0 ? powerToDb(others / own) : null;
  const stereo = reference.length === 2 && other.length === 2;
  return {
    delaySamples,
    polarityInverted,
    coherence,
    samePerformance,
    levelDb: samePerformance ? transfer.broadbandDb : averageDb,
    lowTiltDb: difference(meanDb(bands, 63, 200), middle),
    highTiltDb: difference(meanDb(bands, 5000, 12_500), middle),
    bands,
    nullDb: samePerformance ? residualOf(reference, other, transfer).nullDb : null,
    width: stereo ? { referenceDb: widthDb(reference), otherDb: widthDb(other) } : null,
  };
}
