import type { Writable } from 'node:stream';
import { ReadableStream as WebReadable } from 'node:stream/web';
import { configure, TextReader, ZipWriter } from '@zip.js/zip.js';
import { streamAudio } from '@/platform/audio-store';
import { into } from '@/platform/stream-into';
import type { Archive } from './service';

configure({ useWebWorkers: false });

/** Writes the zip as it is read out of the bank: of no file more than a few blocks are held in memory. */
export async function writeArchive({ files }: Archive, out: Writable): Promise<void> {
  const zip = new ZipWriter<unknown>(into(out), { level: 0, zip64: true });
  for (const file of files) {
    if ('text' in file) {
      await zip.add(file.name, new TextReader(file.text), { level: 6 });
      continue;
    }
    const sound = WebReadable.from(streamAudio(file.audioId, 0, file.bytes));
    await zip.add(file.name, { readable: sound as ReadableStream<Uint8Array>, size: file.bytes });
  }
  await zip.close();
}
