import { performance } from './instruments';
import type { InstrumentName } from './score';

/** Peak of the finished track: −6 dBFS. */
const PEAK = 0.5;

/**
 * The rest of the music, for listening in the mix: made-up instruments together, as dry as they come.
 * Deterministic from the seed.
 * @returns samples, ±1 = full scale
 */
export function backingTrack(
  instruments: readonly InstrumentName[],
  sampleRateHz: number,
  seed: number,
): Float64Array {
  const parts = instruments.map((instrument) => performance(instrument, sampleRateHz, seed));
  const out = new Float64Array(Math.max(...parts.map(({ length }) => length)));
  for (const part of parts) part.forEach((x, n) => (out[n]! += x));
  const peak = out.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  return out.map((x) => (x * PEAK) / peak);
}
