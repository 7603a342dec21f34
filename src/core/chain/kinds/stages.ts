import {
  A_WEIGHTED_WHITE_DB,
  addPowersDb,
  inputNoiseDbu,
  thermalNoiseDbu,
} from '@/core/chain/electric';
import type { GearSpecs } from '../specs';
import type { Leaving, Placed, Reaching } from './kind';

/** Of a microphone input, and of one for lines, where no data sheet says it, ohm. */
export const MICROPHONE_INPUT_OHM = 1500;
export const LINE_INPUT_OHM = 10_000;

/** Specs that everything with gain at a microphone's level can have. */
export const AMPLIFIER_SPECS = [
  'outputImpedanceOhm',
  'inputImpedanceOhm',
  'minGainDb',
  'maxGainDb',
  'gainStepDb',
  'einDbu',
  'einWeighting',
  'einBandwidthHz',
  'einSourceOhm',
  'maxInputDbu',
  'maxOutputDbu',
] as const;

const USUAL = { einDbu: -125, einSourceOhm: 150, maxOutputDbu: 20, outputOhm: 75 };

/** Room above a peak before an input overloads, dB; null where no data sheet says it. */
function inputRoomDb({ maxInputDbu }: GearSpecs, peakDbu: number): number | null {
  return maxInputDbu === undefined ? null : maxInputDbu - peakDbu;
}

/**
 * A stage without power of its own.
 * @param changeDb what it does to the level
 * @param turns what it does to the voltage by being a transformer
 */
export function passiveStage(
  { specs }: Placed,
  { signalDbu, noiseDbu, sourceOhm, peakOverAverageDb }: Reaching,
  changeDb: number,
  turns = 1,
): Leaving {
  const ownOhm = specs.outputImpedanceOhm ?? sourceOhm * turns ** 2;
  return {
    signalDbu: signalDbu + changeDb,
    // It cannot go below the thermal noise of what it presents.
    noiseDbu: Math.max(noiseDbu + changeDb, thermalNoiseDbu(ownOhm) + A_WEIGHTED_WHITE_DB),
    sourceOhm: ownOhm,
    gainDb: changeDb,
    headroomDb: inputRoomDb(specs, signalDbu + peakOverAverageDb),
  };
}

/**
 * A stage with gain.
 * @param ownNoiseDbu its own noise at its input, A-weighted
 */
export function amplifyingStage(
  { name, specs }: Placed,
  { signalDbu, noiseDbu, peakOverAverageDb, assume }: Reaching,
  gainDb: number,
  ownNoiseDbu: number,
): Leaving {
  const signal = signalDbu + gainDb;
  if (specs.maxOutputDbu === undefined) assume(`${name}: max output ${USUAL.maxOutputDbu} dBu`);
  const outputRoom = (specs.maxOutputDbu ?? USUAL.maxOutputDbu) - (signal + peakOverAverageDb);
  const inputRoom = inputRoomDb(specs, signalDbu + peakOverAverageDb);
  return {
    signalDbu: signal,
    noiseDbu: addPowersDb([noiseDbu, ownNoiseDbu]) + gainDb,
    sourceOhm: specs.outputImpedanceOhm ?? USUAL.outputOhm,
    gainDb,
    headroomDb: inputRoom === null ? outputRoom : Math.min(inputRoom, outputRoom),
  };
}

/** A-weighted noise of an input alone, dBu; the source's thermal noise is in the source. */
export function equivalentInputNoiseDbu({ name, specs }: Placed, { assume }: Reaching): number {
  if (specs.einDbu === undefined) assume(`${name}: EIN ${USUAL.einDbu} dBu`);
  const einDbu = specs.einDbu ?? USUAL.einDbu;
  const sourceOhm = specs.einSourceOhm ?? USUAL.einSourceOhm;
  const own = inputNoiseDbu({
    einDbu,
    weighting: specs.einWeighting ?? 'unweighted',
    bandwidthHz: specs.einBandwidthHz ?? 20_000,
    sourceOhm,
  });
  if (own !== null) return own + A_WEIGHTED_WHITE_DB;
  assume(
    `${name}: its EIN lies below the thermal noise of ${sourceOhm} Ω; read as for a shorted input`,
  );
  return einDbu + (specs.einWeighting === 'A' ? 0 : A_WEIGHTED_WHITE_DB);
}
