import path from 'node:path';
import { markRestoreFailed } from '@/platform/copies/store';
import { db, endPool } from '@/platform/database';
import type { RestoreOrder } from '@/platform/copies/order';
import { recordRestored, restore } from './backup/bank';
import type { CopyPlace } from './copies';

/**
 * Brings a copy back in place of the bank that is there, which is kept aside. Nothing else may work with the bank.
 * Where it does not come back the bank is as it was, and says at the copy why.
 * @returns why it did not come back; null where it did
 */
export async function restoreCopy(
  { url, folder, root, passphrase }: CopyPlace,
  { copyId, file, by }: RestoreOrder['restore'],
  told: (what: string) => void,
): Promise<string | null> {
  // Connections of this process would count as somebody who works with the bank.
  await endPool();
  try {
    const whole = path.join(folder, file);
    const { manifest } = await restore(url, whole, root, { inPlace: true, passphrase, told });
    await recordRestored(url, manifest, new Date(), by);
    return null;
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    await markRestoreFailed(db(), copyId, why).catch(() => undefined);
    return why;
  }
}
