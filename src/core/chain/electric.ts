import { aWeightedWhiteDb } from '@/core/signal/a-weighting';
import { amplitudeToDb, dbToAmplitude, powerToDb } from '@/core/signal/units';

/** 0 dBu: the voltage that gives 1 mW in 600 Ω. */
export const DBU_V = Math.sqrt(0.6);
/** 0 dBV in dBu: 2.218. */
export const DBV_IN_DBU = -amplitudeToDb(DBU_V);
/** Audio bandwidth to which noise is referred, Hz. */
export const BANDWIDTH_HZ = 20_000;
const BOLTZMANN_J_PER_K = 1.380649e-23;
const ROOM_K = 293.15;

export const voltsToDbu = (volts: number): number => amplitudeToDb(volts / DBU_V);
export const dbuToVolts = (dbu: number): number => DBU_V * dbToAmplitude(dbu);

/** Sum of independent noises, each in dB. Nothing at all is -Infinity. */
export function addPowersDb(levels: readonly number[]): number {
  return powerToDb(levels.reduce((sum, level) => sum + 10 ** (level / 10), 0));
}

/** Resistances side by side, ohm; infinite ones change nothing. */
export function parallelOhm(resistances: readonly number[]): number {
  return 1 / resistances.reduce((sum, ohm) => sum + 1 / ohm, 0);
}

/** What a load takes from a source: 20·log10(Zin / (Zin + Zout)), in dB, never positive. */
export function loadingDb(sourceOhm: number, loadOhm: number): number {
  return amplitudeToDb(loadOhm / (loadOhm + sourceOhm));
}

/**
 * Thermal noise of a resistance at 20 °C in a bandwidth, dBu, unweighted: √(4·k·T·R·B)
 * (Johnson 1928, Nyquist 1928). 0 Ω gives -Infinity.
 */
export function thermalNoiseDbu(ohm: number, bandwidthHz = BANDWIDTH_HZ): number {
  return voltsToDbu(Math.sqrt(4 * BOLTZMANN_J_PER_K * ROOM_K * ohm * bandwidthHz));
}

/** What A-weighting takes from white noise up to 20 kHz, dB (negative). */
export const A_WEIGHTED_WHITE_DB = aWeightedWhiteDb(2 * BANDWIDTH_HZ);

export interface StatedEin {
  einDbu: number;
  weighting: 'unweighted' | 'A';
  bandwidthHz: number;
  /** Resistance at the input while it was measured; 0 for a short. */
  sourceOhm: number;
}

/**
 * Voltage noise of an input alone, as for a shorted input: unweighted, 20 kHz, dBu. White noise is
 * assumed, and current noise is not known, so that with another source than the stated one the
 * truth may lie higher. Null when the statement lies at or below the thermal noise of its own
 * source, which no input can reach.
 */
export function inputNoiseDbu(stated: StatedEin): number | null {
  const unweighted = stated.weighting === 'A' ? stated.einDbu - A_WEIGHTED_WHITE_DB : stated.einDbu;
  const atBandwidth =
    stated.weighting === 'A'
      ? unweighted
      : unweighted + powerToDb(BANDWIDTH_HZ / stated.bandwidthHz);
  const own = 10 ** (atBandwidth / 10) - 10 ** (thermalNoiseDbu(stated.sourceOhm) / 10);
  return own > 0 ? powerToDb(own) : null;
}

/**
 * The same input noise as another data sheet would state it; null where `inputNoiseDbu` is.
 */
export function restateEinDbu(stated: StatedEin, as: Omit<StatedEin, 'einDbu'>): number | null {
  const own = inputNoiseDbu(stated);
  if (own === null) return null;
  const white = addPowersDb([own, thermalNoiseDbu(as.sourceOhm)]);
  return as.weighting === 'A'
    ? white + A_WEIGHTED_WHITE_DB
    : white + powerToDb(as.bandwidthHz / BANDWIDTH_HZ);
}
