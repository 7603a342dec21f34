'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { ShownTake } from '@/steps/takes/schema';
import { useSend } from '@/ui/useSend';
import { TAKES } from '@/steps/takes/endpoints';
import type { Ids } from '@/platform/endpoint';

/** A remark that may stay: why, in a few words, for whoever reads the record. */
export function OverrideDialog({
  take,
  check,
  ids,
  onClose,
}: {
  take: ShownTake;
  check: string;
  ids: Ids<typeof TAKES.override.path>;
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const before = take.overrides.find((one) => one.check === check)?.reason ?? '';
  const [reason, setReason] = useState(before);
  const keep = async (kept: string | null) => {
    if ((await send(TAKES.override, ids, { check, reason: kept })) !== null) onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Use this take all the same?</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          {take.checks.find((one) => one.check === check)?.text}
        </Typography>
        <TextField
          label="Why it may stay"
          value={reason}
          onChange={({ target }) => setReason(target.value)}
          fullWidth
          slotProps={{ htmlInput: { maxLength: 300 } }}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        {before !== '' && (
          <Button disabled={busy} onClick={() => void keep(null)}>
            Take back
          </Button>
        )}
        <Button
          variant="contained"
          disabled={busy || reason.trim() === ''}
          onClick={() => void keep(reason)}
        >
          Accept
        </Button>
      </DialogActions>
    </Dialog>
  );
}
