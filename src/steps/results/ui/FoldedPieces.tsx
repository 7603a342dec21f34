import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { token } from '@/ui/tokens';
import { DisclosureButton } from './Disclosure';
import type { Folds } from './folds/fold';

/** Pieces of a page, each folded to its title; what is open stands below in their order. */
export function FoldedPieces({
  pieces,
  folds,
}: {
  pieces: readonly { id: string; title: string; body: () => ReactNode }[];
  folds: Folds;
}) {
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2.5, mt: 1 }}>
        {pieces.map(({ id, title }) => (
          <DisclosureButton
            key={id}
            id={id}
            open={folds.isOpen(id)}
            onToggle={() => folds.toggle(id)}
          >
            {title}
          </DisclosureButton>
        ))}
      </Box>
      {pieces.map(({ id, title, body }) =>
        folds.isOpen(id) ? (
          <Box
            key={id}
            id={id}
            component="section"
            sx={{ borderTop: `1px solid ${token('rule')}`, mt: 2, pt: 1.5 }}
          >
            <Typography variant="h2" sx={{ mb: 1 }}>
              {title}
            </Typography>
            {body()}
          </Box>
        ) : null,
      )}
    </>
  );
}
