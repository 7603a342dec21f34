import { transaction } from '@/platform/database';
import { archiveToUnpack, failArchive, keepUnpacked } from '@/steps/takes/service';
import type { Refusal } from '../tasks/reporting';
import type { Unpacked, Whole } from '../tasks/unpack';
import type { Job } from './job';

function skippedRemark(skipped: number): string | null {
  if (skipped === 0) return null;
  return `${skipped} other ${skipped === 1 ? 'file' : 'files'} in this archive ${skipped === 1 ? 'is' : 'are'} no WAV or FLAC and ${skipped === 1 ? 'was' : 'were'} left out.`;
}

export const unpackArchive = {
  queue: 'unpack-archive',
  run: async (archiveId, inThread, report) => {
    const archive = await archiveToUnpack(archiveId);
    if (!archive) return;
    const task = { audioId: archive.audioId };
    const held = await inThread<Unpacked | Refusal | Whole>('unpackArchive', task, report);
    const made =
      'whole' in held ? await inThread<Refusal | null>('bringComparisonIn', archive, report) : held;
    if (made === null) return;
    if ('refused' in made) {
      await transaction((tx) => failArchive(tx, archiveId, made.refused));
      return made;
    }
    await keepUnpacked(archive, made.files, skippedRemark(made.skipped), new Date());
  },
  giveUp: (tx, archiveId, remark) => failArchive(tx, archiveId, remark),
} as const satisfies Job;
