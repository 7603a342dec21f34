'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { ChainsView } from '@/steps/chains/service';
import { day } from '@/ui/format';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { CHAINS } from '@/steps/chains/endpoints';

/** The chain that is kept in every comparison, and since when. */
export function ReferencePanel({ comparisonId, view }: { comparisonId: string; view: ChainsView }) {
  const { send, busy } = useSend();
  const current = view.chains.find(({ isReference }) => isReference)?.chain.id ?? '';
  const [chosen, setChosen] = useState<string | null>(null);
  const [reason, setReason] = useState('');
  const value = chosen ?? current;
  const keep = async () => {
    const body = { chainId: value || null, reason };
    if (!(await send(CHAINS.chooseReference, { id: comparisonId }, body))) return;
    setChosen(null);
    setReason('');
  };
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2">The reference</Typography>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mb: 1.5, maxWidth: '76ch' }}>
        One known chain, kept in every comparison, lets results of different days be set side by
        side. Changing it is worth a comparison of its own.
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { sm: '240px 1fr auto' },
          gap: 1.5,
          maxWidth: 720,
        }}
      >
        <TextField
          select
          label="Reference chain"
          value={value}
          onChange={(event) => setChosen(event.target.value)}
        >
          <MenuItem value="">none</MenuItem>
          {view.chains.map(({ chain }) => (
            <MenuItem key={chain.id} value={chain.id}>
              {chain.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Why"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          disabled={value === current}
        />
        <Button variant="outlined" disabled={busy || value === current} onClick={() => void keep()}>
          Save
        </Button>
      </Box>
      {view.references.length > 0 && (
        <Box component="ul" sx={{ mt: 1.5, mb: 0, pl: 2.5, fontSize: '0.875rem' }}>
          {view.references.slice(0, 6).map(({ comparison, chainName, reason: why, changedAt }) => (
            <li key={String(changedAt)}>
              {day(changedAt)}, {comparison}: {chainName}
              {why && `, ${why}`}
            </li>
          ))}
        </Box>
      )}
    </Box>
  );
}
