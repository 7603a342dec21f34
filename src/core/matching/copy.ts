import { measureKnowingPeak } from '@/core/loudness/meter';
import { Random } from '@/core/signal/random';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { MatchError } from './match';

/** No copy may be further from the common loudness. */
const LARGEST_RESIDUAL_LU = 0.05;

/**
 * A copy of a clip for one listener and trial: 24 bits with dither from its own seed, so that no two
 * copies share their bytes, and measured on those bytes.
 * @param master 32-bit float WAV, gain applied
 * @param levelLufs what the copy must read, null when the set was not matched by programme loudness
 * @param gainDb added to the master; only a control that asks who follows loudness has any
 * @throws MatchError when the bytes are not as loud as the rest of the set
 */
export async function servedCopy(
  master: Uint8Array,
  seed: number,
  levelLufs: number | null,
  gainDb = 0,
): Promise<Uint8Array<ArrayBuffer>> {
  const { header, channels: matched } = await decodeWav(master);
  const gain = 10 ** (gainDb / 20);
  const channels =
    gainDb === 0 ? matched : matched.map((channel) => channel.map((sample) => gain * sample));
  const bytes = encodeWav(channels, header.format.sampleRateHz, 24, new Random(seed));
  if (levelLufs === null) return bytes;
  const copy = await decodeWav(bytes);
  // Peaks were verified when the set was made; here only loudness is asked, many times a second.
  const { integratedLufs } = measureKnowingPeak(copy.channels, copy.header.format, 0);
  const wanted = levelLufs + gainDb;
  if (integratedLufs === null || Math.abs(integratedLufs - wanted) > LARGEST_RESIDUAL_LU) {
    throw new MatchError('a copy is not as loud as the rest of its set; it was not sent');
  }
  return bytes;
}
