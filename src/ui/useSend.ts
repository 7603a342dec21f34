'use client';

import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useCallback, useState } from 'react';
import type { Endpoint, Ids } from '@/platform/endpoint';
import { type Body, request, RequestError } from './request';

/**
 * Sends a change; on success the page's data is read anew, on failure its sentence is shown.
 * @returns the sender (null when it failed) and whether it is under way
 */
export function useSend(): {
  send: <Path extends string, Sent, Taken, Reply>(
    endpoint: Endpoint<Path, Sent, Taken, Reply>,
    ids: Ids<Path>,
    ...body: Body<Sent>
  ) => Promise<Reply | null>;
  busy: boolean;
} {
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const [busy, setBusy] = useState(false);
  const send = useCallback(
    async <Path extends string, Sent, Taken, Reply>(
      endpoint: Endpoint<Path, Sent, Taken, Reply>,
      ids: Ids<Path>,
      ...body: Body<Sent>
    ): Promise<Reply | null> => {
      setBusy(true);
      try {
        const result = await request(endpoint, ids, ...body);
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
