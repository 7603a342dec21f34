import { statfs } from 'node:fs/promises';
import { config } from './config';
import type { Db } from './database';
import { one } from './one';

/**
 * Kept free for the database itself: once its log, which may grow by some 400 MB, cannot be written, it stops for
 * everybody, listeners included.
 */
const RESERVE_BYTES = 512 << 20;

/** What is free on the disk that a folder lies on. */
export async function freeBytesIn(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

/** What a disk lacks for so many bytes more, beside what the database itself needs; 0 or less where they fit. */
export async function missingBytes(folder: string, bytes: number): Promise<number> {
  return bytes + RESERVE_BYTES - (await freeBytesIn(folder));
}

/** Refuses sound for which the disk has no space, before the disk is full. @throws as the system would, ENOSPC */
export async function requireSpace(bytes: number): Promise<void> {
  const folder = config().ZEITBANK_STORE;
  if (!folder) return;
  if ((await missingBytes(folder, bytes)) <= 0) return;
  throw Object.assign(new Error('No space left on device'), { code: 'ENOSPC' });
}

export async function databaseBytes(db: Db): Promise<number> {
  const { bytes } = await one(
    db.rows<{ bytes: number }>('SELECT pg_database_size(current_database())::float8 AS bytes'),
  );
  return bytes;
}
