'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ViewProps } from './view';

/** What the controls show, apart from every test. */
export function ControlsView({ controls }: ViewProps) {
  if (controls.length === 0) return null;
  return (
    <Box sx={{ mt: 2 }}>
      <Typography sx={{ fontWeight: 600 }}>Controls</Typography>
      {controls.map((sentence) => (
        <Typography key={sentence} sx={{ mt: 0.5, maxWidth: '86ch' }}>
          {sentence}
        </Typography>
      ))}
    </Box>
  );
}
