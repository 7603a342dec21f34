'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Chain } from '@/steps/chains/schema';
import type { ChannelMap, ShownTake } from '@/steps/takes/schema';
import { useSend } from '@/ui/useSend';
import { TAKES } from '@/steps/takes/endpoints';
import type { Ids } from '@/platform/endpoint';

const LEFT_OUT = '-';
const LATER = '?';

/** Which channel belongs to which chain: the order of the chains is the first guess. */
export function ChannelDialog({
  take,
  chains,
  ids,
  onClose,
}: {
  take: ShownTake;
  chains: Chain[];
  ids: Ids<typeof TAKES.split.path>;
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const count = take.facts?.channels ?? 0;
  const [paired, setPaired] = useState(false);
  const width = paired ? 2 : 1;
  const parts = Array.from({ length: Math.floor(count / width) }, (_, i) =>
    Array.from({ length: width }, (_channel, c) => i * width + c),
  );
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const chainOf = (i: number) => chosen[i] ?? chains[i]?.id ?? LEFT_OUT;
  const split = async () => {
    const map: ChannelMap = {
      parts: parts.flatMap((channels, i) => {
        const id = chainOf(i);
        return id === LEFT_OUT ? [] : [{ channels, chainId: id === LATER ? null : id }];
      }),
    };
    if ((await send(TAKES.split, ids, map)) !== null) onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Split {take.fileName}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1 }}>
          Each channel becomes a take of its chain; the file stays stored once.
        </Typography>
        {count >= 2 && (
          <FormControlLabel
            label="Channels in stereo pairs"
            control={<Switch checked={paired} onChange={(_, on) => setPaired(on)} />}
          />
        )}
        <Box sx={{ display: 'grid', gap: 1.5, mt: 1.5 }}>
          {parts.map((channels, i) => (
            <TextField
              key={channels.join()}
              select
              label={`Channel ${channels.map((c) => c + 1).join(' and ')}`}
              value={chainOf(i)}
              onChange={({ target }) => setChosen((before) => ({ ...before, [i]: target.value }))}
            >
              <MenuItem value={LEFT_OUT}>leave out</MenuItem>
              <MenuItem value={LATER}>a take without a chain yet</MenuItem>
              {chains.map(({ id, name }) => (
                <MenuItem key={id} value={id}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy || parts.every((_, i) => chainOf(i) === LEFT_OUT)}
          onClick={() => void split()}
        >
          Split
        </Button>
      </DialogActions>
    </Dialog>
  );
}
