'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { CAPTURE_METHODS } from '@/core/checks/set/set-check';
import { TAKES } from '@/steps/takes/endpoints';
import type { Chain } from '@/steps/chains/schema';
import type { Source } from '@/steps/comparisons/schema';
import type { BenchPlan } from '@/steps/takes/plans';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { areRecordable, StepChoices } from './StepChoices';

const INSTRUMENTS = ['contralto', 'cello', 'clarinet'] as const;

/** The stand-in for a day at the stand: made-up sources through the planned chains. */
export function BenchDialog({
  comparisonId,
  chains,
  sources,
  onClose,
}: {
  comparisonId: string;
  chains: Chain[];
  sources: Source[];
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const able = chains.filter(({ gear }) => gear.length > 0);
  const guess = INSTRUMENTS.find((one) => sources[0]!.name.toLowerCase().includes(one));
  const [plan, setPlan] = useState<BenchPlan>({
    chainIds: able.map(({ id }) => id),
    instrument: guess ?? 'contralto',
    sourceId: sources[0]!.id,
    capture: 'at once',
    takes: 1,
    programme: [{ programme: 'performance', details: [] }],
    room: 'treated',
    accidents: false,
    seed: 1,
  });
  const set = (change: Partial<BenchPlan>) => setPlan((before) => ({ ...before, ...change }));
  const toggled = <T,>(list: readonly T[], one: T, on: boolean): T[] =>
    on ? [...list, one] : list.filter((other) => other !== one);
  const record = async () => {
    const done = await send(TAKES.record, { id: comparisonId }, plan);
    if (done === null) return;
    enqueueSnackbar('The bench records; takes appear as they are checked.');
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Simulated recording bench</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2, maxWidth: '72ch' }}>
          For practice, and to try a plan before anybody sets up a stand: a made-up musician in a
          made-up room, recorded through the planned chains with their gain, noise and delay.
          Everything from here is marked simulated and proves nothing about real gear.
        </Typography>
        {able.length === 0 ? (
          <Typography>
            The bench needs chains that are made of gear, with a microphone and a preamp. Plan one
            at Chains first.
          </Typography>
        ) : (
          <>
            <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
              <TextField
                select
                label="Plays"
                value={plan.instrument}
                onChange={({ target }) =>
                  set({ instrument: target.value as BenchPlan['instrument'] })
                }
                sx={{ width: 150 }}
              >
                {INSTRUMENTS.map((one) => (
                  <MenuItem key={one} value={one}>
                    {one}
                  </MenuItem>
                ))}
              </TextField>
              {sources.length > 1 && (
                <TextField
                  select
                  label="For the source"
                  value={plan.sourceId}
                  onChange={({ target }) => set({ sourceId: target.value })}
                  sx={{ width: 180 }}
                >
                  {sources.map(({ id, name }) => (
                    <MenuItem key={id} value={id}>
                      {name}
                    </MenuItem>
                  ))}
                </TextField>
              )}
              <TextField
                select
                label="Captured"
                value={plan.capture}
                onChange={({ target }) => set({ capture: target.value as BenchPlan['capture'] })}
                sx={{ width: 190 }}
              >
                {CAPTURE_METHODS.map((one) => (
                  <MenuItem key={one} value={one}>
                    {one}
                  </MenuItem>
                ))}
              </TextField>
              <TextField
                label="Takes of each chain"
                type="number"
                value={plan.takes}
                slotProps={{ htmlInput: { min: 1, max: 6 } }}
                onChange={({ target }) =>
                  set({ takes: Math.max(1, Math.min(6, Number(target.value) || 1)) })
                }
                sx={{ width: 160 }}
              />
              <TextField
                select
                label="Room"
                value={plan.room}
                onChange={({ target }) => set({ room: target.value as BenchPlan['room'] })}
                sx={{ width: 140 }}
              >
                <MenuItem value="treated">treated</MenuItem>
                <MenuItem value="bare">bare</MenuItem>
              </TextField>
              <TextField
                label="Seed"
                type="number"
                value={plan.seed}
                slotProps={{ htmlInput: { min: 0, max: 1_000_000 } }}
                onChange={({ target }) => set({ seed: Math.max(0, Number(target.value) || 0) })}
                sx={{ width: 110 }}
              />
            </Box>
            <FormControlLabel
              label="Sometimes somebody bumps into the stand"
              control={
                <Checkbox
                  checked={plan.accidents}
                  onChange={(_, accidents) => set({ accidents })}
                />
              }
            />
            <Typography variant="h2" sx={{ mt: 1 }}>
              Through which chains
            </Typography>
            <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
              {able.map(({ id, name }) => (
                <FormControlLabel
                  key={id}
                  label={name}
                  control={
                    <Checkbox
                      checked={plan.chainIds.includes(id)}
                      onChange={(_, on) => set({ chainIds: toggled(plan.chainIds, id, on) })}
                    />
                  }
                />
              ))}
            </Box>
            <Typography variant="h2" sx={{ mt: 1 }}>
              What
            </Typography>
            <StepChoices
              withPerformance
              chosen={plan.programme}
              onChange={(programme) => set({ programme })}
            />
            <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
              Plosives are never recorded at a ribbon, here as little as at a real one.
            </Typography>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={
            busy ||
            plan.chainIds.length === 0 ||
            plan.programme.length === 0 ||
            !areRecordable(plan.programme)
          }
          onClick={() => void record()}
        >
          Record
        </Button>
      </DialogActions>
    </Dialog>
  );
}
