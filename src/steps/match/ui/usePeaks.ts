'use client';

import { useRead } from '@/ui/useRead';

/** What is measured of sound never changes: asked for once. */
const ONCE = { revalidateOnFocus: false, revalidateIfStale: false, revalidateOnReconnect: false };

/**
 * The drawing of a take, fetched when it is wanted.
 * @param takesUrl address of the comparison's takes
 * @returns largest magnitude of each stretch; null until it is there
 */
export function usePeaks(takesUrl: string, takeId: string | undefined): number[] | null {
  const address = takeId === undefined ? null : `${takesUrl}/${takeId}/peaks`;
  return useRead<{ peaks: number[] }>(address, ONCE).data?.peaks ?? null;
}
