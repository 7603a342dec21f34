'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import type { GearItem } from '@/core/chain/item';
import { readNumber } from '@/core/text/numbers';
import { CHAINS } from '@/steps/chains/endpoints';
import { numberHint } from '@/ui/DecimalField';
import { countWord } from '@/ui/format';
import { useSend } from '@/ui/useSend';

function Picker({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: GearItem[];
  value: GearItem[];
  onChange: (chosen: GearItem[]) => void;
}) {
  return (
    <Autocomplete
      multiple
      size="small"
      disableCloseOnSelect
      options={options}
      value={value}
      onChange={(_, chosen) => onChange(chosen)}
      getOptionLabel={({ name }) => name}
      getOptionKey={({ id }) => id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      renderInput={(parameters) => <TextField {...parameters} label={label} />}
    />
  );
}

/** Every microphone with every preamp: the grid that tells their shares apart. */
export function GridDialog({
  comparisonId,
  gear,
  onClose,
}: {
  comparisonId: string;
  gear: GearItem[];
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const of = (kind: GearItem['kind']) => gear.filter((item) => item.kind === kind);
  const [microphones, setMicrophones] = useState<GearItem[]>([]);
  const [preamps, setPreamps] = useState<GearItem[]>([]);
  const [shared, setShared] = useState<GearItem[]>(() => of('converter').slice(0, 1));
  const [distance, setDistance] = useState('');
  const make = async () => {
    const ids = (items: GearItem[]) => items.map(({ id }) => id);
    const cm = readNumber(distance);
    const done = await send(
      CHAINS.addGrid,
      { id: comparisonId },
      {
        microphoneIds: ids(microphones),
        preampIds: ids(preamps),
        sharedIds: ids(shared),
        distanceM: cm === null ? null : cm / 100,
      },
    );
    if (!done) return;
    enqueueSnackbar(
      done.made === 0
        ? 'All of them are there already.'
        : `${countWord(done.made, 'chain')} added.`,
    );
    onClose();
  };
  const count = microphones.length * preamps.length;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Every microphone with every preamp</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          A grid shows what the microphone does and what the preamp does, apart from each other.
          Chains that are there already are passed over.
        </Typography>
        <Box sx={{ display: 'grid', gap: 2 }}>
          <Picker
            label="Microphones"
            options={of('microphone')}
            value={microphones}
            onChange={setMicrophones}
          />
          <Picker label="Preamps" options={of('preamp')} value={preamps} onChange={setPreamps} />
          <Picker
            label="After them, the same for all"
            options={[...of('strip'), ...of('converter')]}
            value={shared}
            onChange={setShared}
          />
          <TextField
            label="Distance for all, cm"
            value={distance}
            {...numberHint(distance)}
            onChange={(event) => setDistance(event.target.value)}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={busy || count === 0} onClick={() => void make()}>
          {count === 0 ? 'Make the grid' : `Make ${count === 1 ? 'one chain' : `${count} chains`}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
