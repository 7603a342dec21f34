import type { Master } from '@/core/matching/copy';
import { decodeWav } from '@/core/wav/read';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';

/** A matched clip as it is stored. */
export async function readMaster(audioId: number): Promise<Master> {
  const source = await audioSource(db(), audioId);
  const { header, channels } = await decodeWav(await source.read(0, source.byteLength));
  return { channels, sampleRateHz: header.format.sampleRateHz };
}
