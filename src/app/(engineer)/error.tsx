'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { DoorSheet } from '@/ui/DoorSheet';
import { useLookAgain } from '@/ui/useLookAgain';

/** A page that could not be read: it says so, and looks again by itself. */
export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  useLookAgain(reset);
  return (
    <DoorSheet title="This page cannot be read just now">
      <Typography gutterBottom role="status">
        Perhaps the database is away for a moment. What was stored is kept; this page tries again
        every few seconds and goes on by itself.
      </Typography>
      <Button variant="outlined" onClick={reset} sx={{ mt: 1 }}>
        Try now
      </Button>
    </DoorSheet>
  );
}
