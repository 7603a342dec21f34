import type { ByteSource } from '@/core/wav/format';
import { rewriteStart, writeAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { requireSpace } from '@/platform/disk-space';
import { unpackFlac } from '@/platform/flac';

/**
 * Stores what a FLAC file holds as WAV.
 * @returns the id of the sound, not sealed yet
 * @throws WavError when frames are broken or missing
 */
export async function storeDecoded(
  source: ByteSource,
  at: Date,
  onProgress: (share: number) => void,
): Promise<number> {
  const { bytes, pieces, header } = await unpackFlac(source, onProgress);
  await requireSpace(bytes);
  const id = await writeAudio(db(), pieces, at);
  await rewriteStart(db(), id, Buffer.from(header()));
  return id;
}
