import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { token } from './tokens';

/** The one sheet of a page that has no others around it: where somebody comes in, or where nothing is. */
export function DoorSheet({
  title,
  lead,
  children,
}: {
  title: string;
  lead?: string;
  children: ReactNode;
}) {
  return (
    <Box component="main" sx={{ maxWidth: 420, mx: 'auto', pt: { xs: 6, md: 12 }, px: 2 }}>
      <Box
        sx={{
          bgcolor: token('sheet'),
          border: `1px solid ${token('rule')}`,
          borderTop: `4px double ${token('red')}`,
          p: 4,
        }}
      >
        <Typography variant="h1" gutterBottom>
          {title}
        </Typography>
        {lead && <Typography sx={{ color: token('soft'), mb: 2.5 }}>{lead}</Typography>}
        {children}
      </Box>
    </Box>
  );
}
