'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { Fragment, useState } from 'react';
import { fieldsOf, GEAR_KINDS, type GearKind, gearKind } from '@/core/chain/kinds';
import { SPEC_FIELDS } from '@/core/chain/specs';
import { readNumber } from '@/core/text/numbers';
import { GEAR } from '@/steps/gear/endpoints';
import {
  ACCESSORIES,
  ATTRIBUTES,
  BY_HEADER,
  COLUMNS,
  fromMillivolts,
  headerOf,
  itemFromCells,
  plain,
} from '@/steps/gear/cells';
import { PRICE, QUOTED, RENT, UP_TO, USED } from '@/steps/gear/price-cells';
import { type ListedGear, OWNERSHIPS, SCORES } from '@/steps/gear/schema';
import { type Found, FoundPicker } from '@/ui/FoundPicker';
import { token } from '@/ui/tokens';
import { numberHint } from '@/ui/DecimalField';
import { useSend } from '@/ui/useSend';
import { useUnsavedDialog } from '@/ui/useUnsaved';
import { CurveField } from './CurveField';

/** Fields that hold one number. */
const NUMBERS = new Set([
  PRICE,
  UP_TO,
  RENT,
  ...SPEC_FIELDS.filter(({ form }) => form === 'number').map(headerOf),
]);

/** How a field is written whose form nobody can guess. */
const EXAMPLES: Readonly<Record<string, string>> = {
  [USED]: 'One price, or as “300 to 450”',
  [QUOTED]: 'As “1200 CHF at 0.95”; the price in € follows',
};

/** How the number in a field is read, while it is typed. */
function hintOf(header: string, text: string): string | undefined {
  if (header in EXAMPLES && text === '') return EXAMPLES[header];
  return NUMBERS.has(header) ? numberHint(text).helperText : undefined;
}

/** What a sensitivity in decibels is in the other unit of data sheets. */
function millivoltsOf(db: string): string {
  const value = readNumber(db);
  return value === null ? '' : String(Number((1000 * 10 ** (value / 20)).toPrecision(3)));
}

/** All that is written about one item. Fields hold text as it is typed; commas or points before decimals. */
export function GearDialog({ gear, onClose }: { gear: ListedGear | null; onClose: () => void }) {
  const { send, busy } = useSend();
  const [cells, setCells] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      COLUMNS.map((column) => [column.header, gear ? column.write(gear, () => '') : '']),
    ),
  );
  const [accessories, setAccessories] = useState<Found[]>(gear?.accessories ?? []);
  const [faults, setFaults] = useState<Record<string, string>>({});
  const written = JSON.stringify([cells, accessories.map(({ id }) => id)]);
  const [opened] = useState(written);
  const { close, question } = useUnsavedDialog(written !== opened, onClose);
  const kind = (cells.kind || 'microphone') as GearKind;
  /** As it is typed; else it follows the decibels. */
  const [millivolts, setMillivolts] = useState<string | null>(null);
  const set = (header: string) => (event: { target: { value: string } }) =>
    setCells((now) => ({ ...now, [header]: event.target.value }));
  const field = (header: string, label: string, choices?: readonly string[]) => (
    <TextField
      key={header}
      label={label}
      select={Boolean(choices)}
      value={cells[header] ?? ''}
      onChange={set(header)}
      error={header in faults}
      helperText={faults[header] ?? hintOf(header, cells[header] ?? '')}
    >
      {choices && header !== 'kind' && header !== 'ownership' && (
        <MenuItem value="">not known</MenuItem>
      )}
      {choices?.map((choice) => (
        <MenuItem key={choice} value={choice}>
          {choice}
        </MenuItem>
      ))}
    </TextField>
  );
  const keep = async () => {
    const own = new Set(fieldsOf(kind).map(headerOf));
    const specHeaders = new Set(GEAR_KINDS.flatMap(fieldsOf).map(headerOf));
    const given = COLUMNS.filter(
      ({ header }) => header !== ACCESSORIES && (!specHeaders.has(header) || own.has(header)),
    ).map((column) => {
      const standing = column.header === 'kind' ? kind : '';
      return [column, cells[column.header] || standing] as const;
    });
    const made = itemFromCells(given, gear ?? undefined);
    setFaults(Object.fromEntries(made.faults.map(({ column, message }) => [column, message])));
    if (!made.draft) return;
    const draft = { ...made.draft, accessoryIds: accessories.map(({ id }) => id) };
    const done = gear
      ? await send(GEAR.change, { gearId: gear.id }, { draft, version: gear.version })
      : await send(GEAR.add, {}, draft);
    if (done) onClose();
  };
  const elsewhere = Object.entries(faults).filter(
    ([header]) => header === 'specs' || !BY_HEADER.has(plain(header)),
  );
  return (
    <Dialog open onClose={close} fullWidth maxWidth="md">
      {question}
      <DialogTitle>{gear ? gear.name : 'A new item'}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'grid', gridTemplateColumns: { sm: 'repeat(3, 1fr)' }, gap: 2, pt: 1 }}>
          {field('name', 'Name')}
          {field('kind', 'Kind', GEAR_KINDS)}
          {field('maker', 'Maker')}
          {field(PRICE, 'Price, €')}
          {field('ownership', 'Ours?', OWNERSHIPS)}
          {field('condition', 'Condition')}
          {field(UP_TO, 'Price may go up to, €')}
          {field(USED, 'Used, €')}
          {field(RENT, 'Rented a day, €')}
          {field(QUOTED, 'Price in its own currency')}
        </Box>
        {fieldsOf(kind).length > 0 && (
          <>
            <Typography variant="h2" sx={{ mt: 3, mb: 1.5 }}>
              What is known
            </Typography>
            <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mb: 2 }}>
              Leave open what the data sheet does not say; the gain ladder names what it assumes.
              Several values are parted by a semicolon.
            </Typography>
            <Box sx={{ display: 'grid', gridTemplateColumns: { sm: 'repeat(3, 1fr)' }, gap: 2 }}>
              {fieldsOf(kind).map((spec) => (
                <Fragment key={headerOf(spec)}>
                  {field(
                    headerOf(spec),
                    `${spec.label}${spec.unit ? `, ${spec.unit}` : ''}`,
                    spec.form === 'choice' ? spec.choices : undefined,
                  )}
                  {spec.name === 'sensitivityDb' && (
                    <TextField
                      label="or in mV/Pa"
                      value={millivolts ?? millivoltsOf(cells[headerOf(spec)] ?? '')}
                      onChange={({ target }) => {
                        setMillivolts(target.value);
                        const mv = readNumber(target.value) ?? 0;
                        // What is no number leaves the decibels as they are.
                        if (mv <= 0 && target.value.trim() !== '') return;
                        const db = mv > 0 ? String(fromMillivolts(mv)) : '';
                        setCells((now) => ({ ...now, [headerOf(spec)]: db }));
                      }}
                      onBlur={() => setMillivolts(null)}
                    />
                  )}
                </Fragment>
              ))}
            </Box>
          </>
        )}
        {elsewhere.map(([header, message]) => (
          <Typography key={header} role="alert" sx={{ color: token('red'), mt: 1 }}>
            {message}
          </Typography>
        ))}
        <Typography variant="h2" sx={{ mt: 3, mb: 1.5 }}>
          In use
        </Typography>
        <Box sx={{ display: 'grid', gap: 2 }}>
          <FoundPicker
            label="Comes with"
            helperText="Mounts, clips, supplies: they count in the price of a chain."
            from={GEAR.accessories}
            ids={{}}
            without={gear?.id}
            value={accessories}
            onChange={setAccessories}
          />
          <TextField
            label="Notes"
            multiline
            minRows={2}
            value={cells.notes}
            onChange={set('notes')}
            error={'notes' in faults}
            helperText={faults.notes}
          />
          <TextField
            label="Attributes of your own"
            multiline
            value={cells[ATTRIBUTES]}
            onChange={set(ATTRIBUTES)}
            error={ATTRIBUTES in faults}
            helperText={
              faults[ATTRIBUTES] ??
              'As “weight: 350 g; outputs: 2”. Items stand side by side by these names, too.'
            }
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(5, 1fr)', gap: 2 }}>
            {SCORES.map((score) => field(`mark: ${score}`, `${score}, 1–5`))}
          </Box>
        </Box>
        {gear && gearKind(kind).takesCurves && <CurveField gear={gear} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={close}>Cancel</Button>
        <Button variant="contained" disabled={busy} onClick={() => void keep()}>
          {gear ? 'Save' : 'Add'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
