import { performance } from './instruments';
import { MICROPHONES } from './microphones';
import { PREAMPS } from './preamps';
import { recordTake, SMALL_STUDIO } from './record';
import type { InstrumentName } from './score';

/** Enough for a quiet reader, and for everything else. */
const GAIN_DB = { reader: 54, other: 42 } as const;

/**
 * The beginning of a made-up part, as a plain microphone in a small room takes it: for what is heard of no chain.
 * @returns samples, ±1 = full scale, the same again for the same seed
 */
export function simulatedPhrase(
  instrument: InstrumentName,
  sampleRateHz: number,
  { seed, untilS, distanceM }: { seed: number; untilS: number; distanceM: number },
): Float64Array {
  return recordTake(performance(instrument, sampleRateHz, seed, untilS), sampleRateHz, {
    microphone: MICROPHONES[3]!,
    preamp: PREAMPS[0]!,
    gainDb: instrument === 'reader' ? GAIN_DB.reader : GAIN_DB.other,
    distanceM,
    angleDeg: 0,
    room: SMALL_STUDIO,
    polarityInverted: false,
    seed,
  });
}
