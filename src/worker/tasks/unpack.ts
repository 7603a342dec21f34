import { ZipReader } from '@zip.js/zip.js';
import { audioSource, writeAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { isStoreFull } from '@/platform/errors';
import { unpacksToAbsurdly } from '@/platform/packed';
import { CAREFULLY, contentOf, StoredZip } from '@/platform/stored-zip';
import { isWholeComparison } from '@/steps/archive/arrival';
import type { Refusal, WithProgress } from './reporting';

const MOST_FILES = 500;
const SOUND = /\.(wav|wave|bwf|rf64|flac)$/i;

export interface Unpacked {
  files: { audioId: number; fileName: string }[];
  skipped: number;
}

/** Not takes, but a comparison as another bank wrote it. */
export interface Whole {
  whole: true;
}

class ArchiveError extends Error {
  override name = 'ArchiveError';
}

/**
 * Stores the sound files of a zip, one after another, without holding any of them in memory; their
 * checksums are tested. Folders in names are left out, so that no name can reach anywhere; other files
 * are skipped.
 */
export async function unpackArchive({
  audioId,
  progress,
}: { audioId: number } & WithProgress): Promise<Unpacked | Refusal | Whole> {
  const source = await audioSource(db(), audioId);
  const files: Unpacked['files'] = [];
  let [bytes, skipped] = [0, 0];
  /** Lets bytes through as long as they are not far more than sound can be packed to. */
  async function* counted(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const piece of pieces) {
      bytes += piece.length;
      if (unpacksToAbsurdly(bytes, source.byteLength)) {
        throw new ArchiveError('it would unpack to far more than sound can be packed');
      }
      yield piece;
    }
  }
  try {
    const start = await source.read(0, 2);
    if (String.fromCharCode(...start) !== 'PK') throw new ArchiveError('it is not a zip file');
    if (await isWholeComparison(source)) return { whole: true };
    const zip = new ZipReader(new StoredZip(source), CAREFULLY);
    for await (const entry of zip.getEntriesGenerator()) {
      const fileName = entry.filename.split(/[\\/]/).pop() ?? '';
      if (entry.directory || !SOUND.test(fileName) || fileName.startsWith('.')) {
        if (fileName !== '') skipped++;
        continue;
      }
      if (entry.encrypted) throw new ArchiveError('it is locked with a password');
      if (files.length >= MOST_FILES) {
        throw new ArchiveError(`it holds more than ${MOST_FILES} sound files`);
      }
      const stored = await writeAudio(db(), counted(contentOf(entry)), new Date());
      files.push({ audioId: stored, fileName: fileName.slice(-300) });
      progress?.postMessage(entry.offset / source.byteLength);
    }
    if (files.length === 0) throw new ArchiveError('it holds no WAV or FLAC file');
    return { files, skipped };
  } catch (error) {
    for (const file of files) {
      await db().rows('DELETE FROM audio WHERE id = $1', [file.audioId]);
    }
    if (isStoreFull(error)) throw error;
    const said = error instanceof ArchiveError ? error.message : 'it is damaged or cut short';
    return { refused: `This archive cannot be used: ${said}. Nothing of it was kept.` };
  }
}
