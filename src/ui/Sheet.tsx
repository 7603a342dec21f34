import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { token } from './tokens';

/** The page of the book: a margin behind a double red rule, and one thing under a heading that states it. */
export function Sheet({ margin, children }: { margin: ReactNode; children: ReactNode }) {
  return (
    <Box
      sx={{
        mx: { xs: 1, md: 3.5 },
        mb: 3,
        minHeight: 'calc(100vh - 112px)',
        bgcolor: token('sheet'),
        border: `1px solid ${token('rule')}`,
        borderRadius: '3px',
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '222px minmax(0, 1fr)' },
        '@media print': { display: 'block', border: 0, bgcolor: 'transparent', m: 0 },
      }}
    >
      <Box
        component="aside"
        aria-label="Margin"
        sx={{
          p: 2.25,
          displayPrint: 'none',
          // On a phone the page comes first.
          order: { xs: 1, md: 0 },
          color: token('ink'),
          fontSize: '0.8125rem',
          lineHeight: 1.5,
          borderRight: { md: '4px double' },
          borderColor: { md: `color-mix(in srgb, ${token('red')} 55%, transparent)` },
        }}
      >
        {margin}
      </Box>
      <Box component="main" sx={{ p: { xs: 2, md: 3.25 }, pt: { md: 2.5 }, minWidth: 0 }}>
        {children}
      </Box>
    </Box>
  );
}

/** One remark in the margin. */
export function MarginNote({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box sx={{ mb: 2.5 }}>
      <Typography
        component="h2"
        sx={{ fontSize: '0.8125rem', fontWeight: 600, color: token('soft') }}
      >
        {title}
      </Typography>
      <Box sx={{ overflowWrap: 'anywhere' }}>{children}</Box>
    </Box>
  );
}

/** The heading states the finding; beside it stands the one thing to do. */
export function PageHeading({
  finding,
  aside,
  action,
}: {
  finding: string;
  aside?: ReactNode;
  action?: ReactNode;
}) {
  return (
    <Box
      sx={{
        display: 'flex',
        flexWrap: { xs: 'wrap', sm: 'nowrap' },
        alignItems: 'flex-start',
        gap: 2,
        mb: 2.5,
      }}
    >
      <Box sx={{ flex: 1, minWidth: { xs: '100%', sm: 0 } }}>
        <Typography variant="h1" sx={{ overflowWrap: 'anywhere' }}>
          {finding}
        </Typography>
        {aside && (
          <Typography sx={{ color: token('soft'), mt: 0.5, maxWidth: '78ch' }}>{aside}</Typography>
        )}
      </Box>
      {action && <Box sx={{ display: 'flex', gap: 1, flexShrink: 0 }}>{action}</Box>}
    </Box>
  );
}

/** A remark on the page: a caution in ochre, or a problem in red. */
export function Note({
  kind,
  children,
}: {
  kind: 'caution' | 'problem' | 'plain';
  children: ReactNode;
}) {
  const colour = kind === 'problem' ? 'red' : kind === 'caution' ? 'ochre' : 'pen';
  return (
    <Box
      role={kind === 'problem' ? 'alert' : 'note'}
      sx={{
        my: 2,
        px: 1.5,
        py: 1.25,
        fontSize: '0.875rem',
        borderLeft: `3px solid ${token(colour)}`,
        bgcolor: token(kind === 'caution' ? 'ochreWash' : kind === 'problem' ? 'hair' : 'wash'),
      }}
    >
      {children}
    </Box>
  );
}
