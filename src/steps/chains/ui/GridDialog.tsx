'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import type { GearItem } from '@/core/chain/item';
import { PATTERN_NAMES, type PatternName } from '@/core/chain/specs';
import { numberFault, readNumber } from '@/core/text/numbers';
import { CHAINS } from '@/steps/chains/endpoints';
import { gridCells } from '@/steps/chains/grid';
import type { GridOrder } from '@/steps/chains/schema';
import { countWord } from '@/ui/format';
import { TypedValues } from '@/ui/TypedValues';
import { useSend } from '@/ui/useSend';

/** Distances that are often compared, cm. */
const USUAL_CM = ['5', '10', '20', '30', '60', '100'];

function Picker<Option extends GearItem | PatternName>({
  label,
  options,
  value,
  hint,
  onChange,
}: {
  label: string;
  options: readonly Option[];
  value: Option[];
  hint?: string;
  onChange: (chosen: Option[]) => void;
}) {
  const keyOf = (option: Option) => (typeof option === 'string' ? option : option.id);
  return (
    <Autocomplete
      multiple
      size="small"
      disableCloseOnSelect
      options={options}
      value={value}
      onChange={(_, chosen) => onChange(chosen)}
      getOptionLabel={(option) => (typeof option === 'string' ? option : option.name)}
      getOptionKey={keyOf}
      isOptionEqualToValue={(a, b) => keyOf(a) === keyOf(b)}
      renderInput={(parameters) => <TextField {...parameters} label={label} helperText={hint} />}
    />
  );
}

/** Every microphone with every preamp, and what else is to vary: the grid that tells their shares apart. */
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
  const [patterns, setPatterns] = useState<PatternName[]>([]);
  const [switchOn, setSwitchOn] = useState<GridOrder['switchOn']>('microphone');
  const [positions, setPositions] = useState<string[]>([]);
  const [distances, setDistances] = useState<string[]>([]);

  const distanceFault = distances.map((text) => numberFault(text)).find((fault) => fault !== null);
  const ids = (items: GearItem[]) => items.map(({ id }) => id);
  const order: GridOrder = {
    microphoneIds: ids(microphones),
    preampIds: ids(preamps),
    sharedIds: ids(shared),
    patterns,
    switchOn,
    positions,
    distancesM: distances.map((cm) => (readNumber(cm) ?? 0) / 100),
  };
  const itemOf = (id: string) => {
    const item = gear.find((one) => one.id === id);
    return { name: item?.name ?? '', patterns: item?.specs.patterns };
  };
  const { cells, lacking } = gridCells(order, itemOf);
  const count = cells.length;
  const switchless = positions.length > 0 && switchOn === 'preamp' && preamps.length === 0;

  const make = async () => {
    const done = await send(CHAINS.addGrid, { id: comparisonId }, order);
    if (!done) return;
    enqueueSnackbar(
      done.made === 0
        ? 'All of them are there already.'
        : `${countWord(done.made, 'chain')} added.`,
    );
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Every microphone with every preamp</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          A grid shows what the microphone does and what the preamp does, apart from each other.
          Where several patterns, switch positions or distances are given, each becomes a chain of
          its own. Chains that are there already are passed over.
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
          <Picker
            label="Patterns"
            options={PATTERN_NAMES}
            value={patterns}
            hint={lacking.join(' ') || 'As each is, if none is named.'}
            onChange={setPatterns}
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 168px', gap: 1 }}>
            <TypedValues
              label="Switch positions"
              options={[]}
              value={positions}
              onChange={setPositions}
              error={switchless}
              helperText={
                switchless
                  ? 'Choose the preamps whose switch this is.'
                  : 'In words; Enter adds one.'
              }
            />
            <TextField
              select
              size="small"
              label="Switch is on the"
              value={switchOn}
              onChange={({ target }) => setSwitchOn(target.value as GridOrder['switchOn'])}
            >
              <MenuItem value="microphone">microphone</MenuItem>
              <MenuItem value="preamp">preamp</MenuItem>
            </TextField>
          </Box>
          <TypedValues
            label="Distances, cm"
            options={USUAL_CM}
            value={distances}
            onChange={setDistances}
            error={distanceFault !== undefined}
            helperText={distanceFault ?? 'One for all, or several; Enter adds one.'}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy || count === 0 || switchless || distanceFault !== undefined}
          onClick={() => void make()}
        >
          {count === 0 ? 'Make the grid' : `Make ${count === 1 ? 'one chain' : `${count} chains`}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
