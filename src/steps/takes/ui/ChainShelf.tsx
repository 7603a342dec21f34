'use client';

import Box from '@mui/material/Box';
import { useDroppable } from '@dnd-kit/react';
import type { Chain } from '@/steps/chains/schema';
import { token } from '@/ui/tokens';

function Place({
  id,
  name,
  count,
  odd,
}: {
  id: string;
  name: string;
  count: number;
  odd: boolean;
}) {
  const { ref, isDropTarget } = useDroppable({ id });
  return (
    <Box
      ref={ref}
      sx={{
        px: 1.25,
        py: 0.75,
        fontSize: '0.875rem',
        border: `1px solid ${token(isDropTarget ? 'pen' : 'rule')}`,
        bgcolor: token(isDropTarget ? 'wash' : 'card'),
        borderRadius: '3px',
      }}
    >
      {name}{' '}
      <Box component="span" sx={{ color: token(odd ? 'red' : 'soft') }}>
        {count}
      </Box>
    </Box>
  );
}

/** The chains with their number of takes: places to drop takes on. */
export function ChainShelf({
  chains,
  byChain,
}: {
  chains: Chain[];
  byChain: Record<string, number>;
}) {
  return (
    <Box
      role="group"
      aria-label="Takes by chain"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 1,
        py: 1,
        // Within reach from the last row of a long table.
        position: 'sticky',
        top: 0,
        zIndex: 2,
        bgcolor: token('sheet'),
      }}
    >
      {chains.map(({ id, name }) => (
        <Place key={id} id={id} name={name} count={byChain[id] ?? 0} odd={!byChain[id]} />
      ))}
      <Place id="none" name="without a chain" count={byChain[''] ?? 0} odd={Boolean(byChain[''])} />
    </Box>
  );
}
