import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import KeyboardArrowRightIcon from '@mui/icons-material/KeyboardArrowRight';
import type { ReactNode } from 'react';
import { token } from '@/ui/tokens';

/** Opens and shuts a piece of the page. */
export function DisclosureButton({
  id,
  open,
  onToggle,
  children,
}: {
  /** Of what it opens. */
  id: string;
  open: boolean;
  onToggle: () => void;
  children: ReactNode;
}) {
  return (
    <ButtonBase
      onClick={onToggle}
      aria-expanded={open}
      aria-controls={open ? id : undefined}
      sx={{
        color: token('pen'),
        font: 'inherit',
        fontSize: '0.9375rem',
        textAlign: 'left',
        alignItems: 'flex-start',
        py: 0.5,
        '&:focus-visible': { outline: `2px solid ${token('pen')}`, outlineOffset: 2 },
      }}
    >
      <KeyboardArrowRightIcon
        aria-hidden
        sx={{ fontSize: '1.25rem', mt: '1px', transform: open ? 'rotate(90deg)' : 'none' }}
      />
      <Box component="span">{children}</Box>
    </ButtonBase>
  );
}
