import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { bringIn } from '@/steps/archive/arrival';
import type { ArchiveSource } from '@/steps/takes/store';
import type { Refusal, WithProgress } from './reporting';

/** Makes an untouched comparison what a whole one of another bank was. */
export async function bringComparisonIn({
  progress,
  ...archive
}: ArchiveSource & WithProgress): Promise<Refusal | null> {
  const refused = await bringIn(
    await audioSource(db(), archive.audioId),
    archive,
    new Date(),
    (share) => progress?.postMessage(share),
  );
  return refused === null ? null : { refused };
}
