import { powerToDb } from '@/core/signal/units';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';

/** One take of the test programme (or the performance) of a chain, in the numbers that were measured. */
export interface ProgrammeTake {
  chain: string;
  programme: string;
  detail: string;
  loudnessLufs: number | null;
  rmsDbfs: number | null;
  truePeakDbtp: number | null;
  /** Mean square by third of an octave, dBFS, in the order of `THIRD_OCTAVES`. */
  thirdsDb: readonly (number | null)[];
  aWeightedDbfs: number | null;
  below120Dbfs: number | null;
}

export interface NoiseFloor {
  /** dBFS as recorded. */
  flatDb: number;
  aWeightedDb: number | null;
  /** At the gain that makes the chain's performance as loud as the others. */
  matchedFlatDb: number | null;
  matchedADb: number | null;
  thirdsDb: readonly (number | null)[];
}

export interface BandEffect {
  /** Which angle, distance, switch. */
  detail: string;
  /** Over everything, dB. */
  overallDb: number | null;
  thirdsDb: (number | null)[];
}

/** What the test programme says of one chain; null where the recording is missing. */
export interface ChainNumbers {
  chain: string;
  /** Gain to the common loudness, dB. */
  makeUpDb: number | null;
  room: NoiseFloor | null;
  resistor: NoiseFloor | null;
  offAxis: BandEffect[];
  /** Low end (63 to 200 Hz) against 1 kHz, over what it is at the greatest distance, dB. */
  lowRise: { detail: string; db: number | null }[];
  /** Energy below 120 Hz in plosives against speech as a whole, dB. */
  plosiveDb: number | null;
  /** Highest peak of the knocks against the mean level of the performance, dB. */
  knockDb: number | null;
  /** Speech over the steady noise, both A-weighted, dB. */
  wantedToNoiseDb: number | null;
  switches: BandEffect[];
  treatment: BandEffect | null;
}

const { abs, max } = Math;

const subtract = (a: number | null | undefined, b: number | null | undefined) =>
  typeof a === 'number' && typeof b === 'number' ? a - b : null;

function mean(values: readonly (number | null)[]): number | null {
  const known = values.filter((value): value is number => value !== null);
  return known.length === 0 ? null : known.reduce((sum, x) => sum + x, 0) / known.length;
}

function powerOf(thirdsDb: readonly (number | null)[], fromHz: number, toHz: number) {
  let power = 0;
  thirdsDb.forEach((db, i) => {
    const { centerHz } = THIRD_OCTAVES[i]!;
    if (db !== null && centerHz >= fromHz && centerHz <= toHz) power += 10 ** (db / 10);
  });
  return power > 0 ? powerToDb(power) : null;
}

function effect(detail: string, take: ProgrammeTake, plain: ProgrammeTake): BandEffect {
  return {
    detail,
    overallDb: subtract(take.rmsDbfs, plain.rmsDbfs),
    thirdsDb: take.thirdsDb.map((db, i) => subtract(db, plain.thirdsDb[i])),
  };
}

/**
 * Numbers of every chain, in the order in which chains first occur. Differences assume that the gain
 * was not touched between the two recordings of a chain.
 * @param commonLufs loudness that every performance is thought at; the loudest chain's when absent
 */
export function programmeNumbers(
  takes: readonly ProgrammeTake[],
  commonLufs?: number,
): ChainNumbers[] {
  const chains = [...new Set(takes.map(({ chain }) => chain))];
  const loudnessOf = (chain: string) =>
    mean(
      takes
        .filter((take) => take.chain === chain && take.programme === 'performance')
        .map((take) => take.loudnessLufs),
    );
  const known = chains.map(loudnessOf).filter((lufs): lufs is number => lufs !== null);
  const common = commonLufs ?? (known.length > 0 ? max(...known) : null);
  return chains.map((chain) => {
    const own = takes.filter((take) => take.chain === chain);
    const all = (programme: string) => own.filter((take) => take.programme === programme);
    const one = (programme: string, detail?: string) =>
      own.find(
        (take) => take.programme === programme && (detail === undefined || take.detail === detail),
      );
    const makeUpDb = subtract(common, loudnessOf(chain));
    const floor = (take: ProgrammeTake | undefined): NoiseFloor | null => {
      if (!take || take.rmsDbfs === null) return null;
      const matched = (db: number | null) =>
        makeUpDb === null || db === null ? null : db + makeUpDb;
      return {
        flatDb: take.rmsDbfs,
        aWeightedDb: take.aWeightedDbfs,
        matchedFlatDb: matched(take.rmsDbfs),
        matchedADb: matched(take.aWeightedDbfs),
        thirdsDb: take.thirdsDb,
      };
    };
    const onAxis = one('off-axis', '0') ?? one('tone');
    const distances = all('distance')
      .filter(({ detail }) => Number.isFinite(Number(detail)))
      .sort((a, b) => Number(a.detail) - Number(b.detail));
    const tilt = (take: ProgrammeTake) =>
      subtract(powerOf(take.thirdsDb, 63, 200), powerOf(take.thirdsDb, 800, 1250));
    const far = distances.at(-1);
    const plain = one('tone') ?? one('off-axis', '0') ?? one('speech');
    const [treated, untreated] = [one('treatment', 'treated'), one('treatment', 'untreated')];
    return {
      chain,
      makeUpDb,
      room: floor(one('room')),
      resistor: floor(one('resistor')),
      offAxis: onAxis
        ? all('off-axis')
            .filter(({ detail }) => abs(Number(detail)) > 0)
            .map((take) => effect(take.detail, take, onAxis))
        : [],
      lowRise: distances.map((take) => ({
        detail: take.detail,
        db: far ? subtract(tilt(take), tilt(far)) : null,
      })),
      plosiveDb: subtract(one('plosives')?.below120Dbfs, one('speech')?.rmsDbfs),
      knockDb: subtract(
        one('knocks')?.truePeakDbtp,
        mean(all('performance').map((t) => t.rmsDbfs)),
      ),
      wantedToNoiseDb: subtract(one('speech')?.aWeightedDbfs, one('noise')?.aWeightedDbfs),
      switches: plain ? all('switch').map((take) => effect(take.detail, take, plain)) : [],
      treatment: treated && untreated ? effect('treated', treated, untreated) : null,
    };
  });
}
