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
import { useState } from 'react';
import { Controller, useFieldArray, useForm, useWatch } from 'react-hook-form';
import { programmeLabel } from '@/core/checks/programme';
import { offsetOf, STAGE_KINDS, type StageSettings, startOf } from '@/core/processing/stages';
import { CHAINS } from '@/steps/chains/endpoints';
import {
  type Chain,
  chainDraft,
  type Variant,
  variantName,
  variantWords,
} from '@/steps/chains/schema';
import type { ShownTake } from '@/steps/takes/schema';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUnsavedDialog } from '@/ui/useUnsaved';
import { ProcessPreview } from './ProcessPreview';
import { StageFields } from './StageFields';

/** The take that the match takes of a chain. */
const MATCHED = 'matched';

interface Values {
  /** '' while nobody wrote one. */
  name: string;
  ofChainId: string;
  takeId: string;
  stages: { settings: StageSettings }[];
}

/** A variant of a chain: which take, and what it goes through before the match. */
export function VariantDialog({
  comparisonId,
  variant,
  chains,
  takes,
  urlOf,
  onClose,
}: {
  comparisonId: string;
  /** Null for a new one. */
  variant: (Chain & { shape: Variant }) | null;
  /** Chains that are no variants. */
  chains: readonly Chain[];
  /** Takes of the passage's source, of whatever step. */
  takes: readonly ShownTake[];
  /** Address of a chain's raw clip, when there is one. */
  urlOf: (chainId: string) => string | null;
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const [defaultValues] = useState((): Values => ({
    name: variant?.name ?? '',
    ofChainId: variant?.shape.ofChainId ?? chains[0]?.id ?? '',
    takeId: variant?.shape.takeId ?? MATCHED,
    stages: (variant?.shape.stages ?? []).map((settings) => ({ settings })),
  }));
  const { control, register, handleSubmit, setError, setValue, formState } = useForm<Values>({
    defaultValues,
  });
  const { fields, append, remove, move, update } = useFieldArray({ control, name: 'stages' });
  const { ofChainId, takeId } = useWatch({ control }) as Values;
  const { close, question } = useUnsavedDialog(formState.isDirty, onClose);
  const { errors } = formState;
  const nameOf = (id: string) => chains.find((chain) => chain.id === id)?.name ?? '';
  const stages = fields.map(({ settings }) => settings);
  const shapeOf = (of: Pick<Values, 'ofChainId' | 'takeId'>): Variant => ({
    kind: 'variant',
    ofChainId: of.ofChainId,
    takeId: of.takeId === MATCHED ? null : of.takeId,
    takeAs: takes.find(({ id }) => id === of.takeId)?.performance?.renderedFrom
      ? 'rendered elsewhere'
      : 'another take',
    stages,
  });
  const words = variantWords(shapeOf({ ofChainId, takeId }), nameOf);
  const usual = variantName(nameOf(ofChainId), words);
  const others = chains.filter(({ id }) => id !== ofChainId);
  const ofChain = takes.filter(({ chainId }) => chainId === ofChainId);
  const url = takeId === MATCHED ? urlOf(ofChainId) : null;
  const offset = offsetOf(stages);
  const keep = async ({ name, ...of }: Values) => {
    const draft = chainDraft.safeParse({
      name: name.trim() || usual,
      items: '',
      priceCents: null,
      shape: shapeOf(of),
    });
    if (!draft.success) {
      setError('name', { message: draft.error.issues[0]?.message });
      return;
    }
    const done = variant
      ? await send(
          CHAINS.change,
          { id: comparisonId, chainId: variant.id },
          { ...draft.data, version: variant.version },
        )
      : await send(CHAINS.add, { id: comparisonId }, draft.data);
    if (done) onClose();
  };
  return (
    <Dialog open onClose={close} fullWidth maxWidth="md">
      {question}
      <DialogTitle>{variant ? 'Change the variant' : 'Add a variant'}</DialogTitle>
      <DialogContent>
        <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mb: 2, maxWidth: '72ch' }}>
          The same chain once more, in one set with all others: another take of it, its sound
          processed, or a file that was rendered from its take elsewhere (drop it at Takes and give
          it to the chain; its latency is taken out). It is aligned and brought to the common
          loudness like every clip, and listeners learn neither its name nor that it is a variant.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '1fr 1fr' }, gap: 2 }}>
          <Controller
            control={control}
            name="ofChainId"
            render={({ field }) => (
              <TextField
                {...field}
                select
                label="Variant of"
                onChange={(event) => {
                  field.onChange(event);
                  setValue('takeId', MATCHED, { shouldDirty: true });
                }}
              >
                {chains.map(({ id, name }) => (
                  <MenuItem key={id} value={id}>
                    {name}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
          <Controller
            control={control}
            name="takeId"
            render={({ field }) => (
              <TextField {...field} select label="Take">
                <MenuItem value={MATCHED}>the one that its chain has in the match</MenuItem>
                {ofChain.map(({ id, fileName, programme, detail }) => (
                  <MenuItem key={id} value={id}>
                    {fileName}
                    {programme !== 'performance' && ` (${programmeLabel(programme, detail)})`}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
        </Box>
        <Typography variant="h2" sx={{ mt: 2.5 }}>
          What it goes through, in this order
        </Typography>
        {fields.length === 0 && (
          <Typography sx={{ color: token('soft'), mt: 1 }}>Nothing: raw.</Typography>
        )}
        <Box component="ol" aria-label="Stages" sx={{ listStyle: 'none', p: 0, m: 0, mt: 1 }}>
          {fields.map(({ id, settings }, i) => (
            <StageFields
              key={id}
              stage={settings}
              number={i + 1}
              chains={others}
              onChange={(changed) => update(i, { settings: changed })}
              onRemove={() => remove(i)}
              onEarlier={i === 0 ? null : () => move(i, i - 1)}
            />
          ))}
        </Box>
        <TextField
          select
          size="small"
          label="Add a stage"
          value=""
          onChange={({ target }) => {
            const kind = STAGE_KINDS.find(({ id }) => id === target.value);
            if (kind) append({ settings: startOf(kind, others[0]?.id ?? '') });
          }}
          sx={{ width: 220, mt: 1.5 }}
        >
          {STAGE_KINDS.filter(({ towards }) => towards === null || others.length > 0).map(
            ({ id, label }) => (
              <MenuItem key={id} value={id}>
                {label}
              </MenuItem>
            ),
          )}
        </TextField>
        {offset !== 0 && (
          <Typography sx={{ color: token('ochre'), fontSize: '0.875rem', mt: 1.5 }}>
            This one will not be as loud as the others. Whoever likes the louder of two clips for
            that alone shows it here; do not read it as a preference between chains.
          </Typography>
        )}
        {url && stages.length > 0 && (
          <ProcessPreview
            key={JSON.stringify(stages)}
            name={nameOf(ofChainId)}
            url={url}
            stages={stages}
            urlOf={urlOf}
          />
        )}
        <TextField
          label="Name"
          placeholder={usual}
          error={Boolean(errors.name)}
          helperText={
            errors.name?.message ?? 'Listeners never see it. Left empty, it says what was done.'
          }
          {...register('name')}
          slotProps={{ inputLabel: { shrink: true } }}
          sx={{ mt: 2.5 }}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={close}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy}
          onClick={(event) => void handleSubmit(keep)(event)}
        >
          Save
        </Button>
      </DialogActions>
    </Dialog>
  );
}
