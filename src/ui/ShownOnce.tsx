'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Note } from './Sheet';
import { FACES } from './tokens';
import { useCopy } from './useCopy';

/** Links that were just made; the bank keeps no more of them than lets it know them again. */
export function ShownOnce({ links }: { links: readonly { name: string; link: string }[] }) {
  const copy = useCopy();
  if (links.length === 0) return null;
  return (
    <Note kind="plain">
      Shown only now: the bank keeps no copy that anybody could read. Send each to its person; a
      lost one is replaced by a new one any time.
      {links.map(({ name, link }) => (
        <Box key={link} sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 0.5 }}>
          <span>{name}</span>
          <Box
            component="span"
            sx={{ fontFamily: FACES.mono, fontSize: '0.8125rem', overflowWrap: 'anywhere' }}
          >
            {link}
          </Box>
          <Button
            size="small"
            variant="outlined"
            aria-label={`Copy the link of ${name}`}
            onClick={() => void copy(link)}
          >
            Copy
          </Button>
        </Box>
      ))}
    </Note>
  );
}
