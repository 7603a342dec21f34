import { type Biquad, designBiquad, filterStage } from '@/core/signal/biquad';
import type { Stage } from '@/core/signal/stage';
import { compressor, deEsser } from './dynamics';
import type { ProcessSettings } from './settings';

/** Two sections of a fourth-order Butterworth: 24 dB an octave. */
const BUTTERWORTH_4 = [0.541196, 1.306563] as const;

/** A fourth-order Butterworth high-pass: -3 dB at its corner. */
export function highPassSections(hz: number, sampleRateHz: number): Biquad[] {
  return BUTTERWORTH_4.map((q) => designBiquad('highpass', hz, sampleRateHz, q));
}

/**
 * High-pass, equaliser, compressor, de-esser, for sound at the working loudness (-23 LUFS). The same
 * code runs in the worker and in the browser's preview, so both give the same samples.
 */
export function processStages(
  channels: number,
  sampleRateHz: number,
  settings: ProcessSettings,
): Stage[] {
  const { highPassHz, eq } = settings;
  const sections = [
    ...(highPassHz === null ? [] : highPassSections(highPassHz, sampleRateHz)),
    ...eq
      .filter(({ db }) => db !== 0)
      .map(({ shape, hz, q, db }) => designBiquad(shape, hz, sampleRateHz, q, db)),
  ];
  return [
    filterStage(channels, sections),
    ...(settings.compressor ? [compressor(sampleRateHz, settings.compressor)] : []),
    ...(settings.deEsser ? [deEsser(channels, sampleRateHz, settings.deEsser)] : []),
  ];
}
