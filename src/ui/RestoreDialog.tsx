'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import type { BankCopy } from '@/platform/copies/store';
import { HOUSE } from '@/platform/endpoints';
import { withPassword } from '@/platform/sign-in/schema';
import { day } from './format';
import { runThere } from './refreshIfThere';
import { request, RequestError } from './request';

const ASK_EVERY_MS = 500;
/** A bank that still runs as it did after so many askings does not bring anything back. */
const MOST_ASKED = 120;

/** Waits here, as a page that is fetched while nobody answers is lost, until the bank is there again. */
function Waiting({ run }: { run: string | null }) {
  useEffect(() => {
    let asked = 0;
    let timer: ReturnType<typeof setTimeout>;
    const ask = async () => {
      const there = await runThere();
      asked++;
      if (there !== null && (there !== run || asked > MOST_ASKED)) window.location.reload();
      else timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    };
    timer = setTimeout(() => void ask(), ASK_EVERY_MS);
    return () => clearTimeout(timer);
  }, [run]);
  return (
    <Dialog open aria-labelledby="waiting">
      <DialogTitle id="waiting">A copy is being brought back</DialogTitle>
      <DialogContent>
        <LinearProgress aria-label="Bringing it back" />
        <Typography role="status" sx={{ mt: 2 }}>
          Nobody can work or listen meanwhile. This page goes on by itself; leave the machine
          running. Afterwards you sign in with the password of then, or find at the copy why it did
          not come back.
        </Typography>
      </DialogContent>
    </Dialog>
  );
}

/** Asks once more, and for the password, before the bank becomes another one. */
export function RestoreDialog({ copy, onClose }: { copy: BankCopy; onClose: () => void }) {
  /** The run that took the order; one that ends goes on answering for a moment. */
  const [orderedAt, setOrderedAt] = useState<{ run: string | null } | null>(null);
  const { register, handleSubmit, formState, setError } = useForm<{ current: string }>({
    resolver: zodResolver(withPassword),
    defaultValues: { current: '' },
  });
  const submit = async (given: { current: string }) => {
    try {
      const run = await runThere();
      await request(HOUSE.restoreCopy, { copyId: copy.id }, given);
      setOrderedAt({ run });
    } catch (error) {
      const failed = error instanceof RequestError ? error.message : null;
      setError('current', { message: failed ?? 'This did not work; try again.' });
    }
  };
  if (orderedAt) return <Waiting run={orderedAt.run} />;
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>Restore the bank as it was {copy.madeAt && day(copy.madeAt)}?</DialogTitle>
      <DialogContent>
        <Typography>
          What was put in since then (answers, takes, accounts, sittings) is not deleted: it is kept
          aside in the same database, and no longer shown. Nobody can work or listen for some
          minutes. Afterwards everybody signs in anew, with the passwords of then. If it does not
          come back, the bank stays as it is.
        </Typography>
        <Box
          component="form"
          id="restore"
          noValidate
          onSubmit={(event) => void handleSubmit(submit)(event)}
          sx={{ mt: 2, maxWidth: 320 }}
        >
          <TextField
            fullWidth
            label="Your password"
            type="password"
            autoComplete="current-password"
            error={Boolean(formState.errors.current)}
            helperText={formState.errors.current?.message}
            {...register('current')}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" form="restore" variant="contained" disabled={formState.isSubmitting}>
          Restore
        </Button>
      </DialogActions>
    </Dialog>
  );
}
