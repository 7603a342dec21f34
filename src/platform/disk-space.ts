import { statfs } from 'node:fs/promises';
import { config } from './config';

/**
 * Kept free for the database itself: once its log, which may grow by some 400 MB, cannot be written, it stops for
 * everybody, listeners included.
 */
export const RESERVE_BYTES = 512 << 20;

/** Refuses sound for which the disk has no space, before the disk is full. @throws as the system would, ENOSPC */
export async function requireSpace(bytes: number): Promise<void> {
  const folder = config().ZEITBANK_STORE;
  if (!folder) return;
  const { bavail, bsize } = await statfs(folder);
  if (bavail * bsize >= bytes + RESERVE_BYTES) return;
  throw Object.assign(new Error('No space left on device'), { code: 'ENOSPC' });
}
