import { createHash } from 'node:crypto';
import type { Writable } from 'node:stream';
import { ReadableStream as WebReadable } from 'node:stream/web';
import { configure, ZipWriter } from '@zip.js/zip.js';
import { streamAudio } from '@/platform/audio-store';
import { transaction } from '@/platform/database';
import { into } from '@/platform/stream-into';
import { manifestOf, MANIFEST, rowFiles, SUMS } from './bank-part';
import { type Archive, jsonOf } from './service';

configure({ useWebWorkers: false });

type Parts = AsyncIterable<Uint8Array> | Iterable<Uint8Array>;

/** Lines as bytes, many in one part. */
async function* joined(lines: AsyncIterable<string>): AsyncGenerator<Uint8Array> {
  let part = '';
  for await (const line of lines) {
    part += `${line}\n`;
    if (part.length < 1 << 16) continue;
    yield Buffer.from(part);
    part = '';
  }
  yield Buffer.from(part);
}

/** Writes the zip as it is read out of the bank: of no file more than a few blocks are held in memory. */
export async function writeArchive({ comparisonId, files }: Archive, out: Writable): Promise<void> {
  const zip = new ZipWriter<unknown>(into(out), { zip64: true });
  const sums: string[] = [];
  const add = async (
    name: string,
    parts: Parts,
    { level, size }: { level: number; size?: number },
  ) => {
    const hash = createHash('sha256');
    async function* hashed() {
      for await (const part of parts) {
        hash.update(part);
        yield part;
      }
    }
    const readable = WebReadable.from(hashed()) as ReadableStream<Uint8Array>;
    await zip.add(name, { readable, size }, { level });
    sums.push(`${hash.digest('hex')}  ${name}`);
  };
  const addText = (name: string, text: string) => add(name, [Buffer.from(text)], { level: 6 });
  const sounds = files.flatMap((file) => ('text' in file ? [] : [file]));
  for (const file of files) if ('text' in file) await addText(file.name, file.text);
  const more = await transaction(async (tx) => {
    // All rows as they were in one moment.
    await tx.rows('SET TRANSACTION ISOLATION LEVEL REPEATABLE READ');
    const made = await manifestOf(tx, comparisonId, sounds);
    await addText(MANIFEST, jsonOf(made.manifest));
    for (const { name, lines } of rowFiles(tx, comparisonId)) {
      await add(name, joined(lines), { level: 6 });
    }
    return made.more;
  });
  for (const { name, audioId, bytes } of [...sounds, ...more]) {
    await add(name, streamAudio(audioId, 0, bytes), { level: 0, size: bytes });
  }
  await zip.add(SUMS, { readable: new Blob([`${sums.join('\n')}\n`]).stream() }, { level: 6 });
  await zip.close();
}
