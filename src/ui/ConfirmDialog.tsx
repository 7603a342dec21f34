'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { ReactNode } from 'react';

/** Asks once before something that cannot be taken back. */
export function ConfirmDialog({
  open,
  title,
  text,
  action,
  back = 'Cancel',
  onBack,
  onConfirm,
}: {
  open: boolean;
  title: string;
  text: ReactNode;
  action: string;
  back?: string;
  onBack: () => void;
  onConfirm: () => void;
}) {
  return (
    <Dialog open={open} onClose={onBack}>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>{text}</DialogContent>
      <DialogActions>
        <Button onClick={onBack}>{back}</Button>
        <Button variant="contained" onClick={onConfirm}>
          {action}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
