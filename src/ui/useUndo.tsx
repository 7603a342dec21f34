'use client';

import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import { useSend } from './useSend';

type Send = ReturnType<typeof useSend>['send'];

const OFFERED_MS = 20_000;

/** Says what was removed, and offers to take it back by asking for it again. */
export function useUndo(): (message: string, restore: (send: Send) => Promise<unknown>) => void {
  const { send } = useSend();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  return useCallback(
    (message, restore) => {
      enqueueSnackbar(message, {
        autoHideDuration: OFFERED_MS,
        action: (key) => (
          <Button
            color="inherit"
            onClick={() => {
              closeSnackbar(key);
              void restore(send);
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
