'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import type { Gear } from '@/steps/gear/schema';
import { token } from '@/ui/tokens';
import { readTextFile } from '@/ui/text-file';
import { useSend } from '@/ui/useSend';
import { GEAR } from '@/steps/gear/endpoints';

/** Measured curves of an item, from a plain text file or pasted. */
export function CurveField({ gear }: { gear: Gear }) {
  const { send, busy } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const [which, setWhich] = useState<'impedance' | 'response'>('impedance');
  const [text, setText] = useState('');
  const curve = which === 'impedance' ? gear.impedanceCurve : gear.responseCurve;
  const keep = async (content: string) => {
    const body = { which, text: content, version: gear.version };
    const done = await send(GEAR.setCurve, { gearId: gear.id }, body);
    if (!done) return;
    setText('');
    enqueueSnackbar(
      done.points > 0 ? `${done.points} points are kept.` : 'The curve is taken away.',
    );
  };
  return (
    <>
      <Typography variant="h2" sx={{ mt: 3, mb: 1.5 }}>
        Measured curve
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '200px 1fr' }, gap: 2 }}>
        <TextField
          select
          label="Curve"
          value={which}
          onChange={(event) => setWhich(event.target.value as typeof which)}
          helperText={
            curve
              ? `${curve.length} points from ${curve[0]![0]} Hz to ${curve[curve.length - 1]![0]} Hz`
              : 'none yet'
          }
        >
          <MenuItem value="impedance">impedance, Ω</MenuItem>
          <MenuItem value="response">response, dB</MenuItem>
        </TextField>
        <TextField
          label="Lines of frequency, value and, if known, phase"
          multiline
          minRows={2}
          maxRows={6}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mt: 1, alignItems: 'center' }}>
        <Button component="label" variant="outlined" size="small">
          From a file
          <input
            hidden
            type="file"
            accept=".txt,.csv,.tsv,.frd,.zma,text/plain"
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              if (file) void readTextFile(file).then(setText);
            }}
          />
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={busy || text.trim() === ''}
          onClick={() => void keep(text)}
        >
          Save the curve
        </Button>
        {curve && (
          <Button size="small" disabled={busy} onClick={() => void keep('')}>
            Take it away
          </Button>
        )}
        <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
          A curve that is kept counts at once; other changes here are kept by “Save”.
        </Typography>
      </Box>
    </>
  );
}
