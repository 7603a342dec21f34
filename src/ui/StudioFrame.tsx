'use client';

import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { OnlyPlace } from '@/platform/sign-in/roles';
import { Masthead } from './Masthead';
import { Sheet } from './Sheet';

/** A studio-wide place: the book without steps. */
export function StudioFrame({
  name,
  only,
  margin,
  children,
}: {
  name: string;
  only?: OnlyPlace;
  margin: ReactNode;
  children: ReactNode;
}) {
  return (
    <>
      <Masthead name={name} only={only} />
      <Box sx={{ height: 24 }} />
      <Sheet margin={margin}>{children}</Sheet>
    </>
  );
}
