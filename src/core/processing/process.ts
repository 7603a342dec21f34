import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { compress, deEss } from './dynamics';
import type { ProcessSettings } from './settings';

/** Two sections of a fourth-order Butterworth: 24 dB an octave. */
const BUTTERWORTH_4 = [0.541196, 1.306563] as const;

/**
 * High-pass, equaliser, compressor, de-esser. The same code runs in the worker and in the browser's
 * preview, so both give the same samples.
 * @param channels at the working loudness (-23 LUFS); left as they are
 */
export function processClip(
  channels: readonly Float64Array[],
  sampleRateHz: number,
  { highPassHz, eq, compressor, deEsser }: ProcessSettings,
): Float64Array[] {
  const sections = [
    ...(highPassHz === null
      ? []
      : BUTTERWORTH_4.map((q) => designBiquad('highpass', highPassHz, sampleRateHz, q))),
    ...eq
      .filter(({ db }) => db !== 0)
      .map(({ shape, hz, q, db }) => designBiquad(shape, hz, sampleRateHz, q, db)),
  ];
  const out = channels.map((samples) => filterInPlace(samples.slice(), sections));
  if (compressor) compress(out, sampleRateHz, compressor);
  if (deEsser) deEss(out, sampleRateHz, deEsser);
  return out;
}
