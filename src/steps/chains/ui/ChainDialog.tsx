'use client';

import CloseIcon from '@mui/icons-material/Close';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { move } from '@dnd-kit/helpers';
import { DragDropProvider } from '@dnd-kit/react';
import { useSortable } from '@dnd-kit/react/sortable';
import { useId, useState } from 'react';
import { useController, useForm, useWatch } from 'react-hook-form';
import type { ChainItem, GearItem } from '@/core/chain/item';
import { gearKind } from '@/core/chain/kinds';
import type { ItemSettings } from '@/core/chain/specs';
import { gainRange } from '@/core/chain/gain';
import type { SourceAtMic } from '@/core/chain/kinds/microphone';
import { ladderFinding, walkChain } from '@/core/chain/walk';
import type { Chain, ChainShape } from '@/steps/chains/schema';
import type { ChainsView } from '@/steps/chains/service';
import { readNumber, unmistakable } from '@/core/text/numbers';
import { CHAINS } from '@/steps/chains/endpoints';
import { numberHint } from '@/ui/DecimalField';
import { Note } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUnsavedDialog } from '@/ui/useUnsaved';
import { chainOf, type ChainValues, usualName } from './chain-form';

interface Placed extends ChainItem {
  /** Of this place in the list; the same item may stand in it twice. */
  key: string;
}

let placed = 0;
const place = (item: ChainItem): Placed => ({ ...item, key: `place ${placed++}` });

const USUAL_DISTANCE_M = 0.3;
/** Of a blend that has takes of its own. */
const ITSELF = '-';

function SettingSelect({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: string | undefined;
  choices: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <TextField
      select
      label={label}
      value={value ?? ''}
      onChange={(event) => onChange(event.target.value)}
      sx={{ width: 128 }}
    >
      {choices.map(([key, text]) => (
        <MenuItem key={key} value={key}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** Settings that this item has, and no others. */
function ItemFields({
  item: { gear, settings },
  onChange,
}: {
  item: ChainItem;
  onChange: (settings: ItemSettings) => void;
}) {
  const { specs } = gear;
  const kind = gearKind(gear.kind);
  const set = (change: Partial<ItemSettings>) => onChange({ ...settings, ...change });
  const range = gainRange(specs);
  const [gain, setGain] = useState(settings.gainDb === undefined ? '' : String(settings.gainDb));
  const off: readonly [string, string] = ['', 'off'];
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 1 }}>
      {specs.patterns && specs.patterns.length > 1 && (
        <SettingSelect
          label="Pattern"
          value={settings.pattern ?? specs.patterns[0]}
          choices={specs.patterns.map((pattern) => [pattern, pattern] as const)}
          onChange={(pattern) => set({ pattern: pattern as ItemSettings['pattern'] })}
        />
      )}
      {specs.padsDb && specs.padsDb.length > 0 && (
        <SettingSelect
          label="Pad"
          value={settings.padDb ? String(settings.padDb) : ''}
          choices={[off, ...specs.padsDb.map((pad) => [String(pad), `${pad} dB`] as const)]}
          onChange={(pad) => set({ padDb: pad === '' ? undefined : Number(pad) })}
        />
      )}
      {specs.highPassHz && specs.highPassHz.length > 0 && (
        <SettingSelect
          label="High-pass"
          value={settings.highPassHz ? String(settings.highPassHz) : ''}
          choices={[off, ...specs.highPassHz.map((hz) => [String(hz), `${hz} Hz`] as const)]}
          onChange={(hz) => set({ highPassHz: hz === '' ? undefined : Number(hz) })}
        />
      )}
      {specs.knob && specs.knob.length > 0 && (
        <SettingSelect
          label="Knob"
          value={settings.knobPosition}
          choices={[
            ['', 'as needed'],
            ...specs.knob.map(
              ({ position, gainDb }) => [position, `${position} (${gainDb} dB)`] as const,
            ),
          ]}
          onChange={(position) => set({ knobPosition: position || undefined })}
        />
      )}
      {!specs.knob && (kind.amplifies || range) && (
        <TextField
          label={`Gain, dB${range ? ` (${range[0]} to ${range[1]})` : ''}`}
          placeholder="as needed"
          value={gain}
          {...numberHint(gain)}
          onChange={(event) => {
            setGain(event.target.value);
            set({ gainDb: readNumber(event.target.value) ?? undefined });
          }}
          sx={{ width: 172 }}
        />
      )}
      {kind.feedsPhantom && (
        <SettingSelect
          label="Phantom"
          value={settings.phantom ? 'on' : ''}
          choices={[off, ['on', 'on']]}
          onChange={(phantom) => set({ phantom: phantom === 'on' || undefined })}
        />
      )}
      {kind.hasSwitches && (
        <TextField
          label="Switches, in words"
          value={settings.switches ?? ''}
          onChange={(event) => set({ switches: event.target.value || undefined })}
          sx={{ flex: 1, minWidth: 150 }}
        />
      )}
    </Box>
  );
}

function PlacedItem({
  item,
  index,
  onChange,
  onRemove,
}: {
  item: Placed;
  index: number;
  onChange: (settings: ItemSettings) => void;
  onRemove: () => void;
}) {
  const { ref, handleRef, isDragging } = useSortable({ id: item.key, index });
  return (
    <Box
      component="li"
      ref={ref}
      sx={{
        display: 'grid',
        gridTemplateColumns: '32px 1fr 32px',
        gap: 1,
        py: 1.25,
        borderTop: `1px solid ${token('hair')}`,
        bgcolor: token(isDragging ? 'wash' : 'sheet'),
      }}
    >
      <IconButton
        size="small"
        ref={handleRef}
        aria-label={`Move ${item.gear.name}`}
        sx={{ cursor: 'grab', alignSelf: 'start' }}
      >
        <DragIndicatorIcon fontSize="small" />
      </IconButton>
      <Box>
        <Box
          component="span"
          sx={{ fontFamily: FACES.serif, fontSize: '1.02rem', fontWeight: 600 }}
        >
          {item.gear.name}
        </Box>{' '}
        <Box component="span" sx={{ color: token('soft'), fontSize: '0.875rem' }}>
          {item.gear.kind}
        </Box>
        <ItemFields item={item} onChange={onChange} />
      </Box>
      <IconButton
        size="small"
        aria-label={`Take ${item.gear.name} out`}
        onClick={onRemove}
        sx={{ alignSelf: 'start' }}
      >
        <CloseIcon fontSize="small" />
      </IconButton>
    </Box>
  );
}

function numberText(value: number | null, factor = 1): string {
  return value === null ? '' : unmistakable(Math.round(value * factor * 1000) / 1000);
}

/** Builds a chain out of gear: picked, dragged into order, set; the ladder's finding follows along. */
export function ChainDialog({
  comparisonId,
  chain,
  like = null,
  view,
  onClose,
}: {
  comparisonId: string;
  chain: Chain | null;
  /** What a new chain begins as. */
  like?: Chain | null;
  view: ChainsView;
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const byId = new Map(view.gear.map((item) => [item.id, item]));
  const from = chain ?? like;
  const [defaultValues] = useState((): ChainValues<Placed> => ({
    name: chain?.name ?? (like ? `${like.name}, copy` : ''),
    remarks: from?.items ?? '',
    price: numberText(from?.priceCents ?? null, 0.01),
    distance: numberText(from?.distanceM ?? null, 100),
    angle: numberText(from?.angleDeg ?? null),
    shape: from?.shape ?? { kind: 'single' },
    gear: (from?.gear ?? []).flatMap(({ gearId, settings }) => {
      const gear = byId.get(gearId);
      return gear ? [place({ gear, settings })] : [];
    }),
  }));
  const { register, control, handleSubmit, setError, formState } = useForm<ChainValues<Placed>>({
    defaultValues,
  });
  const { errors, isDirty } = formState;
  const { field: gearField } = useController({ control, name: 'gear' });
  const { field: shapeField } = useController({ control, name: 'shape' });
  const [items, shape] = [gearField.value, shapeField.value];
  const setItems = (change: (now: Placed[]) => Placed[]) => gearField.onChange(change(items));
  const setShape = (next: ChainShape) => shapeField.onChange(next);
  const [distance, angle, price] = useWatch({ control, name: ['distance', 'angle', 'price'] });
  const [openedVersion] = useState(chain?.version);
  const pickId = useId();
  const distanceM = (readNumber(distance) ?? 0) / 100;
  const source: SourceAtMic = {
    ...view.source,
    distanceM: distanceM > 0 ? distanceM : USUAL_DISTANCE_M,
    angleDeg: readNumber(angle) ?? 0,
  };
  const finding = items.length > 0 ? ladderFinding(walkChain(items, source)) : null;
  const others = view.chains.filter(
    ({ chain: { id, shape } }) =>
      id !== chain?.id && shape.kind !== 'blend' && shape.kind !== 'variant',
  );
  const { close, question } = useUnsavedDialog(isDirty, onClose);
  const keep = async (values: ChainValues<Placed>) => {
    const made = chainOf(values);
    if ('faults' in made) {
      for (const [field, message] of Object.entries(made.faults)) {
        setError(field as keyof ChainValues, { message }, { shouldFocus: true });
      }
      return;
    }
    const done = chain
      ? await send(
          CHAINS.change,
          { id: comparisonId, chainId: chain.id },
          { ...made.draft, version: chain.version },
        )
      : await send(CHAINS.add, { id: comparisonId }, made.draft);
    if (done) onClose();
  };
  const number = (field: 'distance' | 'angle' | 'price', text: string, help: string) => ({
    ...register(field),
    error: field in errors || numberHint(text).error,
    helperText: errors[field]?.message ?? numberHint(text).helperText ?? help,
  });
  const elsewhere = errors.gear?.message ?? errors.shape?.message;
  return (
    <Dialog open onClose={close} fullWidth maxWidth="md">
      {question}
      <DialogTitle>{chain ? 'Change the chain' : 'Add a chain'}</DialogTitle>
      <DialogContent>
        {chain && chain.version !== openedVersion && (
          <Note kind="caution">
            This chain was changed in another window meanwhile; it is called “{chain.name}” now.
            What you typed is still here; keeping it writes over that change.
          </Note>
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '2fr 1fr 1fr' }, gap: 2, pt: 1 }}>
          <TextField
            label="Name"
            placeholder={items.length > 0 ? usualName(items) : 'Kern 40 › Linie 2'}
            error={'name' in errors}
            helperText={errors.name?.message ?? 'Listeners never see it.'}
            {...register('name')}
          />
          <TextField
            label="Distance, cm"
            {...number('distance', distance, 'From source to microphone')}
          />
          <TextField label="Angle, °" {...number('angle', angle, 'Off the axis')} />
        </Box>
        <Typography variant="h2" sx={{ mt: 2.5 }}>
          In order, from the microphone on
        </Typography>
        <DragDropProvider onDragEnd={(event) => setItems((now) => moved(now, event))}>
          <Box
            component="ol"
            aria-label="Items of the chain"
            sx={{ listStyle: 'none', m: 0, mt: 1, p: 0 }}
          >
            {items.map((item, index) => (
              <PlacedItem
                key={item.key}
                item={item}
                index={index}
                onChange={(settings) =>
                  setItems((now) =>
                    now.map((one) => (one.key === item.key ? { ...one, settings } : one)),
                  )
                }
                onRemove={() => setItems((now) => now.filter(({ key }) => key !== item.key))}
              />
            ))}
          </Box>
        </DragDropProvider>
        <Autocomplete<GearItem>
          key={items.length}
          id={pickId}
          options={view.gear}
          groupBy={({ kind }) => kind}
          getOptionLabel={(item) => item.name}
          getOptionKey={({ id }) => id}
          onChange={(_, gear) => gear && setItems((now) => [...now, place({ gear, settings: {} })])}
          noOptionsText="Not in the gear list; add it there first."
          size="small"
          sx={{ mt: 1, maxWidth: 360 }}
          renderInput={(parameters) => <TextField {...parameters} label="Add from the gear list" />}
        />
        {finding && (
          <Typography role="status" sx={{ mt: 1.5, fontWeight: 600 }}>
            {finding}
          </Typography>
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '1fr 1fr 1fr' }, gap: 2, mt: 3 }}>
          <TextField
            select
            label="What it is"
            value={shape.kind}
            onChange={(event) => setShape(shapeOf(event.target.value, others[0]?.chain.id ?? ''))}
          >
            <MenuItem value="single">one microphone</MenuItem>
            <MenuItem value="pair">a stereo pair of it</MenuItem>
            <MenuItem value="blend" disabled={others.length === 0}>
              a blend with another chain
            </MenuItem>
          </TextField>
          {shape.kind === 'pair' && (
            <>
              <NumberField
                label="Spacing, cm"
                value={100 * shape.spacingM}
                onChange={(cm) => setShape({ ...shape, spacingM: cm / 100 })}
              />
              <NumberField
                label="Opening, °"
                value={shape.openingDeg}
                onChange={(openingDeg) => setShape({ ...shape, openingDeg })}
              />
            </>
          )}
          {shape.kind === 'blend' && (
            <>
              <TextField
                select
                label="Other chain"
                value={shape.otherChainId}
                onChange={(event) => setShape({ ...shape, otherChainId: event.target.value })}
              >
                {others.map((other) => (
                  <MenuItem key={other.chain.id} value={other.chain.id}>
                    {other.chain.name}
                  </MenuItem>
                ))}
              </TextField>
              <NumberField
                label="Its level against this one, dB"
                value={shape.otherDb}
                onChange={(otherDb) => setShape({ ...shape, otherDb })}
              />
              <TextField
                select
                label="Begins with the takes of"
                value={shape.firstChainId ?? ITSELF}
                onChange={({ target }) =>
                  setShape({
                    ...shape,
                    firstChainId: target.value === ITSELF ? null : target.value,
                  })
                }
              >
                <MenuItem value={ITSELF}>this chain itself</MenuItem>
                {others
                  .filter((other) => other.chain.id !== shape.otherChainId)
                  .map((other) => (
                    <MenuItem key={other.chain.id} value={other.chain.id}>
                      {other.chain.name}
                    </MenuItem>
                  ))}
              </TextField>
              <TextField
                select
                label="Their delay"
                value={shape.timing}
                onChange={({ target }) =>
                  setShape({ ...shape, timing: target.value as typeof shape.timing })
                }
              >
                <MenuItem value="aligned">aligned (default)</MenuItem>
                <MenuItem value="as recorded">as recorded</MenuItem>
              </TextField>
              <TextField
                select
                label="Polarity of the other"
                value={shape.polarity}
                onChange={({ target }) =>
                  setShape({ ...shape, polarity: target.value as typeof shape.polarity })
                }
              >
                <MenuItem value="corrected">corrected (default)</MenuItem>
                <MenuItem value="as recorded">as recorded</MenuItem>
              </TextField>
            </>
          )}
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '2fr 1fr' }, gap: 2, mt: 2 }}>
          <TextField
            label={items.length > 0 ? 'Remarks' : 'What is in it, in order'}
            multiline
            error={'remarks' in errors}
            helperText={errors.remarks?.message}
            {...register('remarks')}
          />
          {items.length === 0 && (
            <TextField
              label="Price in all, €"
              {...number('price', price, 'With mounts, clips and supplies')}
            />
          )}
        </Box>
        {elsewhere && (
          <Typography role="alert" sx={{ color: token('red'), mt: 2 }}>
            {elsewhere}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={close}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy || formState.isSubmitting}
          onClick={(event) => void handleSubmit(keep)(event)}
        >
          {chain ? 'Save' : 'Add'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function moved(now: Placed[], event: Parameters<typeof move>[1]): Placed[] {
  const order = move(
    now.map(({ key }) => key),
    event,
  );
  return order.flatMap((key) => now.find((item) => item.key === key) ?? []);
}

function shapeOf(kind: string, otherChainId: string): ChainShape {
  if (kind === 'pair') return { kind, spacingM: 0.17, openingDeg: 110 };
  return kind === 'blend'
    ? {
        kind,
        otherChainId,
        otherDb: 0,
        firstChainId: null,
        timing: 'aligned',
        polarity: 'corrected',
      }
    : { kind: 'single' };
}

function NumberField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState(numberText(value));
  return (
    <TextField
      label={label}
      value={text}
      {...numberHint(text)}
      error={readNumber(text) === null}
      onChange={(event) => {
        setText(event.target.value);
        const number = readNumber(event.target.value);
        if (number !== null) onChange(number);
      }}
    />
  );
}
