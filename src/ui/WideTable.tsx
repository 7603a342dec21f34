import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** Room for a table that may be wider than the page; it is scrolled by keys as well. */
export function WideTable({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box
      role="region"
      aria-label={`${label}, scrollable`}
      tabIndex={0}
      sx={{ overflowX: 'auto', mt: 1.5 }}
    >
      {children}
    </Box>
  );
}
