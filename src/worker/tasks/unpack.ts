import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';
import { audioSource, writeAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';
import type { WithProgress } from './reporting';

/** What this much may swell to is held in memory. */
const READ_BYTES = 64 << 10;
const MOST_FILES = 500;
const MOST_BYTES = 16 * 1024 ** 3;
/** Sound hardly shrinks; far more than this is a trap. Small files are let through. */
const MOST_RATIO = 60;
const RATIO_FROM_BYTES = 64 << 20;
const SOUND = /\.(wav|wave|bwf|rf64|flac)$/i;

export interface Unpacked {
  files: { audioId: number; fileName: string }[];
  skipped: number;
}

class ArchiveError extends Error {
  override name = 'ArchiveError';
}

/** One file of the archive on its way into the store. */
class Entry {
  private parts: Uint8Array[] = [];
  private wake: () => void = () => undefined;
  private ended = false;
  private failure: Error | null = null;

  push(part: Uint8Array, last: boolean): void {
    if (part.length > 0) this.parts.push(part);
    this.ended ||= last;
    this.wake();
  }

  fail(error: Error): void {
    this.failure ??= error;
    this.wake();
  }

  get waiting(): number {
    return this.parts.length;
  }

  async *bytes(): AsyncGenerator<Uint8Array> {
    for (;;) {
      const part = this.parts.shift();
      if (part) yield part;
      else if (this.ended) return;
      else if (this.failure) throw this.failure;
      else await new Promise<void>((resolve) => (this.wake = resolve));
    }
  }
}

/**
 * Stores the sound files of a zip, one after another, without holding any of them in memory. Folders
 * in names are left out, so that no name can reach anywhere; other files are skipped.
 */
export async function unpackArchive({
  audioId,
  progress,
}: { audioId: number } & WithProgress): Promise<Unpacked | { refused: string }> {
  const source = await audioSource(db(), audioId);
  const stored: Promise<{ audioId: number; fileName: string }>[] = [];
  const entries: Entry[] = [];
  let [bytes, skipped] = [0, 0];
  const unzip = new Unzip((file) => {
    const fileName = file.name.split(/[\\/]/).pop() ?? '';
    if (!SOUND.test(fileName) || fileName.startsWith('.')) {
      if (fileName !== '') skipped++;
      return;
    }
    if (stored.length >= MOST_FILES) {
      throw new ArchiveError(`it holds more than ${MOST_FILES} sound files`);
    }
    const entry = new Entry();
    entries.push(entry);
    file.ondata = (error, part, last) => {
      if (error) return entry.fail(error);
      bytes += part.length;
      const ratio = bytes / Math.max(1, source.byteLength);
      if (bytes > MOST_BYTES || (bytes > RATIO_FROM_BYTES && ratio > MOST_RATIO)) {
        throw new ArchiveError('it would unpack to far more than sound can be packed');
      }
      entry.push(part, last);
    };
    const name = fileName.slice(-300);
    const kept = writeAudio(db(), entry.bytes(), new Date());
    kept.catch(() => undefined);
    stored.push(kept.then((id) => ({ audioId: id, fileName: name })));
    stored[stored.length - 1].catch(() => undefined);
    file.start();
  });
  unzip.register(UnzipInflate);
  unzip.register(UnzipPassThrough);
  try {
    const start = await source.read(0, 2);
    if (String.fromCharCode(...start) !== 'PK') throw new ArchiveError('it is not a zip file');
    for (let at = 0; at < source.byteLength; at += READ_BYTES) {
      const last = at + READ_BYTES >= source.byteLength;
      unzip.push(new Uint8Array(await source.read(at, READ_BYTES)), last);
      // What was inflated is stored before more is read.
      while (entries.some(({ waiting }) => waiting > 0)) {
        await new Promise((resolve) => setTimeout(resolve, 1));
      }
      progress?.postMessage(at / source.byteLength);
    }
    for (const entry of entries) {
      entry.fail(new ArchiveError('it is cut short'));
    }
    const files = await Promise.all(stored);
    if (files.length === 0) throw new ArchiveError('it holds no WAV or FLAC file');
    return { files, skipped };
  } catch (error) {
    for (const entry of entries) entry.fail(new ArchiveError('it was given up'));
    for (const kept of await Promise.allSettled(stored)) {
      if (kept.status === 'fulfilled') {
        await db().rows('DELETE FROM audio WHERE id = $1', [kept.value.audioId]);
      }
    }
    const said = error instanceof ArchiveError ? error.message : 'it is damaged or cut short';
    return { refused: `This archive cannot be used: ${said}. Nothing of it was kept.` };
  }
}
