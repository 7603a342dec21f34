import { open, readFile } from 'node:fs/promises';
import type { ByteSource } from '@/core/wav/format';
import { InputError } from './errors';

const REASONS: Record<string, string> = {
  ENOENT: 'there is no such file',
  EACCES: 'it may not be read',
  EISDIR: 'this is a folder, not a file',
};

function readable(path: string, error: unknown): InputError {
  const code = (error as NodeJS.ErrnoException).code ?? '';
  return new InputError(`${path}: ${REASONS[code] ?? `it cannot be read (${code})`}`);
}

/** Opens a file as a byte source for the length of `work`. */
export async function withSource<T>(
  path: string,
  work: (source: ByteSource) => Promise<T>,
): Promise<T> {
  const handle = await open(path).catch((error: unknown) => {
    throw readable(path, error);
  });
  try {
    const stat = await handle.stat();
    if (stat.isDirectory()) throw readable(path, { code: 'EISDIR' });
    return await work({
      byteLength: stat.size,
      read: async (offset, length) => {
        const wanted = Math.max(0, Math.min(length, stat.size - offset));
        const bytes = new Uint8Array(wanted);
        let done = 0;
        while (done < wanted) {
          const { bytesRead } = await handle.read(bytes, done, wanted - done, offset + done);
          if (bytesRead === 0) break;
          done += bytesRead;
        }
        return bytes.subarray(0, done);
      },
    });
  } finally {
    await handle.close();
  }
}

export async function readWhole(path: string): Promise<Uint8Array> {
  return readFile(path).catch((error: unknown) => {
    throw readable(path, error);
  });
}
