import { LoudnessMeter } from '@/core/loudness/meter';
import { dbToAmplitude } from '@/core/signal/units';
import type { FloatClip } from '@/core/wav/float-clip';
import { plainBytes, plainHeader } from '@/core/wav/write';
import { MatchError } from './align';
import { heardFormat, roundSound } from './rounded';

/** No copy may be further from the common loudness. */
const LARGEST_RESIDUAL_LU = 0.05;

/**
 * A copy of a clip for one listener and trial: a WAV of 24 bits with dither from its own seed, so that
 * no two copies share their bytes, and measured on those bytes. Peaks were verified when the set was
 * made; here only loudness is asked.
 * @param master the clip as it was matched, gain applied
 * @param levelLufs what the copy must read, null when the set was not matched by programme loudness
 * @param gainDb added to the master; only a control that asks who follows loudness has any
 * @param memory gives room for so many bytes, which may hold anything; new memory by default
 * @throws MatchError when the bytes are not as loud as the rest of the set
 */
export function servedCopy(
  master: FloatClip,
  seed: number,
  levelLufs: number | null,
  gainDb = 0,
  memory: (bytes: number) => Uint8Array = (bytes) => new Uint8Array(bytes),
): Uint8Array {
  const { channels, frames, sampleRateHz } = master;
  const bytes = memory(plainBytes(channels, frames, 24));
  plainHeader(bytes, channels, frames, sampleRateHz, 24);
  const format = heardFormat(channels, sampleRateHz);
  const gain = dbToAmplitude(gainDb);
  if (levelLufs === null) {
    roundSound(master, format, gain, seed, bytes);
    return bytes;
  }
  const meter = new LoudnessMeter(format, { truePeak: false });
  roundSound(master, format, gain, seed, bytes, (read) => meter.push(read));
  const { integratedLufs } = meter.finish();
  const wanted = levelLufs + gainDb;
  if (integratedLufs === null || Math.abs(integratedLufs - wanted) > LARGEST_RESIDUAL_LU) {
    throw new MatchError('a copy is not as loud as the rest of its set; it was not sent');
  }
  return bytes;
}
