'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useForm } from 'react-hook-form';
import type { BankCopy } from '@/platform/copies/store';
import { HOUSE } from '@/platform/endpoints';
import { withPassword } from '@/platform/sign-in/schema';
import { day } from './format';
import { useSend } from './useSend';

const ASK_EVERY_MS = 300;
const MOST_ASKED = 40;

/** Goes to the notice once it stands at the bank's address. */
async function toTheNotice(): Promise<void> {
  let stopped = false;
  for (let asked = 0; asked < MOST_ASKED; asked++) {
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS));
    // Between the bank and the notice nobody answers for a moment.
    const answer = await fetch('/api/health').catch(() => null);
    if (answer?.status === 503 || (stopped && answer)) break;
    stopped ||= answer === null;
  }
  window.location.reload();
}

/** Asks once more, and for the password, before the bank becomes another one. */
export function RestoreDialog({ copy, onClose }: { copy: BankCopy; onClose: () => void }) {
  const { send, busy } = useSend();
  const { register, handleSubmit, formState } = useForm<{ current: string }>({
    resolver: zodResolver(withPassword),
    defaultValues: { current: '' },
  });
  const submit = async (given: { current: string }) => {
    if ((await send(HOUSE.restoreCopy, { copyId: copy.id }, given)) === null) return;
    await toTheNotice();
  };
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
        <Button type="submit" form="restore" variant="contained" disabled={busy}>
          Restore
        </Button>
      </DialogActions>
    </Dialog>
  );
}
