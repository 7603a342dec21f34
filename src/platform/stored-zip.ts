import { configure, type FileEntry, Reader } from '@zip.js/zip.js';
import type { ByteSource } from '@/core/wav/format';

/** Where zips are read is a thread already. */
configure({ useWebWorkers: false });

/** How zips that come from outside are read. */
export const CAREFULLY = {
  checkCrc32: true,
  checkOverlappingEntry: true,
  filenameValidation: 'tolerant',
} as const;

/** A zip where it is stored. */
export class StoredZip extends Reader<ByteSource> {
  constructor(private readonly source: ByteSource) {
    super(source);
    this.size = source.byteLength;
  }

  override async readUint8Array(index: number, length: number): Promise<Uint8Array<ArrayBuffer>> {
    return new Uint8Array(await this.source.read(index, length));
  }
}

/** What comes out of a file of a zip. @throws where it is damaged, however it is */
export async function* contentOf(entry: FileEntry): AsyncGenerator<Uint8Array> {
  let through: TransformStreamDefaultController<Uint8Array> | undefined;
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>({
    start: (controller) => void (through = controller),
  });
  // Whoever reads must not wait for more of what is damaged.
  const written = entry.getData(writable).catch((error: unknown) => through?.error(error));
  yield* readable as unknown as AsyncIterable<Uint8Array>;
  await written;
}
