import { amplitudeToDb } from '@/core/signal/units';
import type { CurvePoint, GearSpecs } from './specs';

const { cos, log, PI, sin } = Math;

interface Complex {
  re: number;
  im: number;
}

/** A frequency's source impedance, ohm. */
export type ImpedanceAt = (frequencyHz: number) => Complex;

/** Coil of a moving-coil microphone: resistance and inductance, and its moving part as a resonance. */
export interface CoilModel {
  resistanceOhm: number;
  inductanceH: number;
  resonanceHz: number;
  /** What the resonance adds at its top, ohm. */
  resonanceOhm: number;
  q: number;
}

/** Typical of a 200 Ω coil, where a data sheet says nothing of the curve. */
const USUAL = { inductanceMh: 1.2, resonanceHz: 140, resonanceShare: 0.9, q: 1 };

/** Z(f) = R + jωL + Rres / (1 + jQ·(f/f0 - f0/f)): the motional branch is a parallel resonance. */
export function coilImpedance(coil: CoilModel): ImpedanceAt {
  return (f) => {
    const x = coil.q * (f / coil.resonanceHz - coil.resonanceHz / f);
    const scale = coil.resonanceOhm / (1 + x * x);
    return {
      re: coil.resistanceOhm + scale,
      im: 2 * PI * f * coil.inductanceH - scale * x,
    };
  };
}

/** Value of a curve at a frequency, straight in log frequency; held beyond its ends. */
export function curveAt(curve: readonly CurvePoint[], frequencyHz: number, column: 1 | 2): number {
  const value = (point: CurvePoint) => point[column] ?? 0;
  const after = curve.findIndex(([hz]) => hz >= frequencyHz);
  if (after === -1) return value(curve[curve.length - 1]!);
  if (after === 0) return value(curve[0]!);
  const [low, high] = [curve[after - 1]!, curve[after]!];
  const share = log(frequencyHz / low[0]) / log(high[0] / low[0]);
  return value(low) + share * (value(high) - value(low));
}

export interface SourceImpedance {
  at: ImpedanceAt;
  /** At 1 kHz, magnitude. */
  nominalOhm: number;
  /** What had to be assumed, as a phrase; null when measured or stated. */
  assumed: string | null;
}

const UNKNOWN_OHM = { passive: 200, powered: 150 };

/**
 * Source impedance of a microphone: its measured curve where there is one (without phases taken as
 * resistive), a coil model for moving coils, else its stated impedance at all frequencies.
 */
export function microphoneImpedance(
  specs: GearSpecs,
  curve?: readonly CurvePoint[],
): SourceImpedance {
  if (curve && curve.length > 0) {
    const at: ImpedanceAt = (f) => {
      const magnitude = curveAt(curve, f, 1);
      const phase = (curveAt(curve, f, 2) * PI) / 180;
      return { re: magnitude * cos(phase), im: magnitude * sin(phase) };
    };
    return { at, nominalOhm: curveAt(curve, 1000, 1), assumed: null };
  }
  const passive = isPassive(specs);
  const nominalOhm =
    specs.outputImpedanceOhm ?? (passive ? UNKNOWN_OHM.passive : UNKNOWN_OHM.powered);
  const assumed =
    specs.outputImpedanceOhm === undefined ? `output impedance ${nominalOhm} Ω` : null;
  if (specs.type !== 'moving coil')
    return { at: () => ({ re: nominalOhm, im: 0 }), nominalOhm, assumed };
  const coil: CoilModel = {
    resistanceOhm: nominalOhm,
    inductanceH: (specs.inductanceMh ?? (USUAL.inductanceMh * nominalOhm) / 200) / 1000,
    resonanceHz: specs.resonanceHz ?? USUAL.resonanceHz,
    resonanceOhm: specs.resonanceOhm ?? USUAL.resonanceShare * nominalOhm,
    q: specs.resonanceQ ?? USUAL.q,
  };
  const modelled = specs.resonanceHz === undefined || specs.resonanceOhm === undefined;
  return {
    at: coilImpedance(coil),
    nominalOhm,
    assumed: [assumed, modelled ? 'a usual coil' : null].filter(Boolean).join(', ') || null,
  };
}

export function isPassive(specs: GearSpecs): boolean {
  if (specs.powering) return specs.powering === 'passive';
  return specs.type === 'moving coil' || specs.type === 'ribbon';
}

/** What a resistive load takes at a frequency: 20·log10(RL / |RL + Z(f)|), dB. */
export function loadedDb(source: ImpedanceAt, loadOhm: number, frequencyHz: number): number {
  const { re, im } = source(frequencyHz);
  return amplitudeToDb(loadOhm / Math.hypot(loadOhm + re, im));
}

export interface LoadingEffect {
  /** At 1 kHz, dB. */
  dropDb: number;
  /** 100 Hz and 10 kHz against 1 kHz, dB. */
  lowDb: number;
  highDb: number;
  /** Largest change of response against 1 kHz between 40 Hz and 16 kHz, dB. */
  tiltDb: number;
  curve: { frequencyHz: number; db: number }[];
}

const POINTS = 97;
const [FROM_HZ, TO_HZ] = [20, 20_000];

/** Level drop and change of response that a load makes, over frequency. */
export function loadingEffect(source: ImpedanceAt, loadOhm: number): LoadingEffect {
  const dropDb = loadedDb(source, loadOhm, 1000);
  const curve = Array.from({ length: POINTS }, (_, i) => {
    const frequencyHz = FROM_HZ * (TO_HZ / FROM_HZ) ** (i / (POINTS - 1));
    return { frequencyHz, db: loadedDb(source, loadOhm, frequencyHz) };
  });
  const judged = curve.filter(({ frequencyHz: f }) => f >= 40 && f <= 16_000);
  return {
    dropDb,
    lowDb: loadedDb(source, loadOhm, 100) - dropDb,
    highDb: loadedDb(source, loadOhm, 10_000) - dropDb,
    tiltDb: Math.max(...judged.map(({ db }) => Math.abs(db - dropDb))),
    curve,
  };
}
