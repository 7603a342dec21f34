import { powerToDb } from '@/core/signal/units';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { PROGRAMME, type ProgrammeStep } from './programme';

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

/** A take of a step in plain numbers. */
export interface StepNumbers {
  programme: string;
  detail: string;
  /** Average level as recorded, dBFS. */
  rmsDb: number | null;
  aWeightedDb: number | null;
  /** 100 Hz and 10 kHz against 1 kHz, dB. */
  lowTiltDb: number | null;
  highTiltDb: number | null;
  thirdsDb: readonly (number | null)[];
}

/** A step's take against the one that it varies. */
export interface StepEffect extends BandEffect {
  programme: string;
  /** Detail of what it is set against; empty for plain sound on axis. */
  against: string;
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
  /** Highest peak of the knocks against the mean level of the performance, dB; by what was knocked on. */
  knocks: { detail: string; db: number | null }[];
  /** Speech over each steady noise, both A-weighted, dB. */
  wantedToNoise: { detail: string; db: number | null }[];
  /** Switches, patterns, gain stages. */
  effects: StepEffect[];
  treatment: BandEffect | null;
  /** Every take but the performance, in the order of the programme. */
  steps: StepNumbers[];
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

const third = (take: ProgrammeTake, hz: number) =>
  take.thirdsDb[THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === hz)];

function stepNumbers(take: ProgrammeTake): StepNumbers {
  const { programme, detail, rmsDbfs, aWeightedDbfs, thirdsDb } = take;
  return {
    programme,
    detail,
    rmsDb: rmsDbfs,
    aWeightedDb: aWeightedDbfs,
    lowTiltDb: subtract(third(take, 100), third(take, 1000)),
    highTiltDb: subtract(third(take, 10_000), third(take, 1000)),
    thirdsDb,
  };
}

/** The detail of a step that most chains have, the first of several: what its others are set against. */
function baseOf(id: string, takes: readonly ProgrammeTake[]): string | undefined {
  const having = new Map<string, Set<string>>();
  for (const { programme, detail, chain } of takes) {
    if (programme === id) having.set(detail, (having.get(detail) ?? new Set()).add(chain));
  }
  const most = max(...[...having.values()].map(({ size }) => size));
  return [...having].find(([, { size }]) => size === most)?.[0];
}

/** Takes of a step that varies something, against plain sound or against the step's base. */
function effectsOf(
  { id, against }: ProgrammeStep,
  takes: readonly ProgrammeTake[],
  plain: ProgrammeTake | undefined,
  baseDetail: string | undefined,
): StepEffect[] {
  const first = takes.find(({ detail }) => detail === baseDetail);
  const base = against === 'first' ? first : plain;
  if (!against || !base) return [];
  const name = against === 'first' ? base.detail : '';
  return takes
    .filter((take) => take !== base)
    .map((take) => ({ programme: id, against: name, ...effect(take.detail, take, base) }));
}

/** A step's number for each of its details. */
function byDetail(
  takes: readonly ProgrammeTake[],
  of: (take: ProgrammeTake) => number | null,
): { detail: string; db: number | null }[] {
  return takes.map((take) => ({ detail: take.detail, db: of(take) }));
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
  const bases = new Map(PROGRAMME.map(({ id }) => [id as string, baseOf(id, takes)]));
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
      knocks: byDetail(all('knocks'), ({ truePeakDbtp }) =>
        subtract(truePeakDbtp, mean(all('performance').map((t) => t.rmsDbfs))),
      ),
      wantedToNoise: byDetail(all('noise'), ({ aWeightedDbfs }) =>
        subtract(one('speech')?.aWeightedDbfs, aWeightedDbfs),
      ),
      effects: PROGRAMME.flatMap((step) =>
        effectsOf(step, all(step.id), plain, bases.get(step.id)),
      ),
      treatment: treated && untreated ? effect('treated', treated, untreated) : null,
      steps: PROGRAMME.filter(({ id }) => id !== 'performance').flatMap(({ id }) =>
        all(id).map(stepNumbers),
      ),
    };
  });
}
