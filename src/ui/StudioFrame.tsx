'use client';

import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { Masthead } from './Masthead';
import { Sheet } from './Sheet';

/** A studio-wide place: the book without steps. */
export function StudioFrame({
  name,
  blind,
  margin,
  children,
}: {
  name: string;
  blind?: boolean;
  margin: ReactNode;
  children: ReactNode;
}) {
  return (
    <>
      <Masthead name={name} blind={blind} />
      <Box sx={{ height: 24 }} />
      <Sheet margin={margin}>{children}</Sheet>
    </>
  );
}
