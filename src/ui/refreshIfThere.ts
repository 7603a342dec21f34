import type { useRouter } from 'next/navigation';
import { HOUSE } from '@/platform/endpoints';
import { request } from './request';

/** Which run of the bank answers just now; null where none does, or something else in its place. */
export async function runThere(): Promise<string | null> {
  return request(HOUSE.well, {}).then(
    ({ run }) => run,
    () => null,
  );
}

/** Reads the page anew. One whose data cannot be fetched is left for the browser's own error, so it asks first. */
export async function refreshIfThere(router: ReturnType<typeof useRouter>): Promise<void> {
  if ((await runThere()) !== null) router.refresh();
}
