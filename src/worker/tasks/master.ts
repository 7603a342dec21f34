import { FloatClip } from '@/core/wav/float-clip';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';

/** A matched clip as it is stored. */
export async function readMaster(audioId: number): Promise<FloatClip> {
  const source = await audioSource(db(), audioId);
  return FloatClip.from(await source.read(0, source.byteLength));
}
