'use client';

import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useCallback, useState } from 'react';
import { request, RequestError } from './request';

/**
 * Sends a change; on success the page's data is read anew, on failure its sentence is shown.
 * @returns the sender (null when it failed) and whether it is under way
 */
export function useSend(): {
  send: <T>(method: string, url: string, body?: unknown) => Promise<T | null>;
  busy: boolean;
} {
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const [busy, setBusy] = useState(false);
  const send = useCallback(
    async <T>(method: string, url: string, body?: unknown): Promise<T | null> => {
      setBusy(true);
      try {
        const result = await request<T>(method, url, body);
        router.refresh();
        return result;
      } catch (error) {
        const failed = error instanceof RequestError ? error : null;
        if (failed?.status === 409) router.refresh();
        enqueueSnackbar(failed?.message ?? 'This did not work; try again.', {
          variant: 'error',
          autoHideDuration: 9000,
        });
        return null;
      } finally {
        setBusy(false);
      }
    },
    [router, enqueueSnackbar],
  );
  return { send, busy };
}
