import { type ClipSpectra, clipSpectra } from '@/core/spectrum/clip-spectra';
import { readMaster } from './master';

/** Pictures of a set's clips, from the bytes that lie in the bank. */
export async function pictureClips({
  clips,
}: {
  clips: { audioId: number; reference: boolean }[];
}): Promise<ClipSpectra[]> {
  const sounds = [];
  for (const { audioId } of clips) sounds.push(await readMaster(audioId));
  const reference = sounds[clips.findIndex((clip) => clip.reference)]!;
  return clipSpectra(reference, sounds, reference.sampleRateHz);
}
