import { open } from 'node:fs/promises';
import type { ByteSource } from '@/core/wav/format';

/** Bytes of a file that is open. */
export interface FileSource extends ByteSource {
  fd: number;
}

/** Opens a file of any length for as long as something is done with it. @throws as the system does */
export async function withFileSource<T>(
  path: string,
  work: (source: FileSource) => Promise<T>,
): Promise<T> {
  const handle = await open(path);
  try {
    const stat = await handle.stat();
    if (stat.isDirectory())
      throw Object.assign(new Error(`${path} is a folder`), { code: 'EISDIR' });
    return await work({
      fd: handle.fd,
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
