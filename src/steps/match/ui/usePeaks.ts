'use client';

import { useRead } from '@/ui/useRead';
import { TAKES } from '@/steps/takes/endpoints';

/** What is measured of sound never changes: asked for once. */
const ONCE = { revalidateOnFocus: false, revalidateIfStale: false, revalidateOnReconnect: false };

/**
 * The drawing of a take, fetched when it is wanted.
 * @returns largest magnitude of each stretch; null until it is there
 */
export function usePeaks(comparisonId: string, takeId: string | undefined): number[] | null {
  const ids = takeId === undefined ? null : { id: comparisonId, takeId };
  return useRead(TAKES.peaks, ids, ONCE).data?.peaks ?? null;
}
