'use client';

import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import { useSend } from './useSend';

const OFFERED_MS = 20_000;

/** Says what was removed, and offers to take it back by a request. */
export function useUndo(): (message: string, restoreUrl: string) => void {
  const { send } = useSend();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  return useCallback(
    (message, restoreUrl) => {
      enqueueSnackbar(message, {
        autoHideDuration: OFFERED_MS,
        action: (key) => (
          <Button
            color="inherit"
            onClick={() => {
              closeSnackbar(key);
              void send('POST', restoreUrl);
            }}
          >
            Undo
          </Button>
        ),
      });
    },
    [send, enqueueSnackbar, closeSnackbar],
  );
}
