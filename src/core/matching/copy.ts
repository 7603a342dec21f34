import { measure } from '@/core/loudness/meter';
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
 * @throws MatchError when the bytes are not as loud as the rest of the set
 */
export async function servedCopy(
  master: Uint8Array,
  seed: number,
  levelLufs: number | null,
): Promise<Uint8Array<ArrayBuffer>> {
  const { header, channels } = await decodeWav(master);
  const bytes = encodeWav(channels, header.format.sampleRateHz, 24, new Random(seed));
  if (levelLufs === null) return bytes;
  const copy = await decodeWav(bytes);
  const { integratedLufs } = measure(copy.channels, copy.header.format);
  if (integratedLufs === null || Math.abs(integratedLufs - levelLufs) > LARGEST_RESIDUAL_LU) {
    throw new MatchError('a copy is not as loud as the rest of its set; it was not sent');
  }
  return bytes;
}
