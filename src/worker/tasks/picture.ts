import { type ClipPictures, clipPictures } from '@/core/spectrum/pictures';
import { readMaster } from './master';

/** Pictures of a set's clips, from the bytes that lie in the bank. */
export async function pictureClips({
  clips,
}: {
  clips: { audioId: number; reference: boolean }[];
}): Promise<ClipPictures[]> {
  const sounds = [];
  for (const { audioId } of clips) sounds.push(await readMaster(audioId));
  const reference = sounds[clips.findIndex((clip) => clip.reference)]!;
  return clipPictures(reference, sounds, reference.sampleRateHz);
}
