'use client';

import { zodResolver } from '@hookform/resolvers/zod';
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
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { type Control, Controller, useFieldArray, useForm } from 'react-hook-form';
import { DECISIONS } from '@/steps/decision/endpoints';
import { type DecisionDraft, decisionDraft, EVIDENCE, VERDICTS } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { Note } from '@/ui/Sheet';
import { useSend } from '@/ui/useSend';
import { draftOf } from './decision-form';

const NO_CHAIN = 'none';

/** One of a few words. */
function Choice({
  control,
  name,
  label,
  options,
}: {
  control: Control<DecisionDraft>;
  name: `uses.${number}.verdict` | `reasons.${number}.rests`;
  label: string;
  options: readonly string[];
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <TextField select label={label} {...field}>
          {options.map((one) => (
            <MenuItem key={one} value={one}>
              {one}
            </MenuItem>
          ))}
        </TextField>
      )}
    />
  );
}

/** Writes what was decided, for which use and why; locking keeps it with all that lay on the table. */
export function DecisionDialog({
  view,
  name,
  onClose,
}: {
  view: DecisionView;
  /** Who is signed in. */
  name: string;
  onClose: () => void;
}) {
  const { send, busy } = useSend();
  const begun = draftOf(view);
  const { register, control, handleSubmit, formState } = useForm<DecisionDraft>({
    resolver: zodResolver(decisionDraft),
    defaultValues: { ...begun, decidedBy: begun.decidedBy || name },
  });
  const uses = useFieldArray({ control, name: 'uses' });
  const reasons = useFieldArray({ control, name: 'reasons' });
  const { errors } = formState;
  const version = view.locked[0]?.record.version ?? 0;
  const sittingId = view.sitting?.sittingId ?? null;
  const lock = async (draft: DecisionDraft) => {
    const body = {
      draft: { ...draft, listenAgain: draft.listenAgain || null },
      version,
      sittingId,
    };
    if (await send(DECISIONS.lock, { id: view.comparison.id }, body)) onClose();
  };
  return (
    <Dialog open onClose={(_, why) => why === 'escapeKeyDown' && onClose()} fullWidth maxWidth="md">
      <DialogTitle>
        {version === 0 ? 'The decision' : `The decision, version ${version + 1}`}
      </DialogTitle>
      <DialogContent>
        <Box
          component="form"
          id="decision"
          noValidate
          onSubmit={(event) => void handleSubmit(lock)(event)}
          sx={{ display: 'grid', gap: 2, pt: 1 }}
        >
          <Typography variant="h2">What, for which use</Typography>
          {uses.fields.map((field, i) => (
            <Box
              key={field.id}
              sx={{
                display: 'grid',
                gap: 1,
                gridTemplateColumns: { sm: '1.2fr 1.2fr 1.2fr auto' },
              }}
            >
              <TextField
                label={`Use ${i + 1}`}
                placeholder="contralto, in the mix"
                error={Boolean(errors.uses?.[i]?.use)}
                helperText={errors.uses?.[i]?.use?.message}
                {...register(`uses.${i}.use`)}
              />
              <Choice
                control={control}
                name={`uses.${i}.verdict`}
                label="Verdict"
                options={VERDICTS}
              />
              <Controller
                control={control}
                name={`uses.${i}.chainId`}
                render={({ field: chain }) => (
                  <TextField
                    select
                    label="Chain"
                    {...chain}
                    value={chain.value ?? NO_CHAIN}
                    onChange={({ target }) =>
                      chain.onChange(target.value === NO_CHAIN ? null : target.value)
                    }
                    error={Boolean(errors.uses?.[i]?.chainId)}
                    helperText={errors.uses?.[i]?.chainId?.message}
                  >
                    <MenuItem value={NO_CHAIN}>none</MenuItem>
                    {view.chains.map(({ id, name: of, out }) => (
                      <MenuItem key={id} value={id}>
                        {of}
                        {out && ' (fails a must-have)'}
                      </MenuItem>
                    ))}
                  </TextField>
                )}
              />
              <IconButton
                aria-label={`Remove use ${i + 1}`}
                disabled={uses.fields.length === 1}
                onClick={() => uses.remove(i)}
              >
                <DeleteOutlineIcon fontSize="small" />
              </IconButton>
            </Box>
          ))}
          <Box>
            <Button
              size="small"
              variant="outlined"
              onClick={() => uses.append({ use: '', verdict: 'postponed', chainId: null })}
            >
              Add a use
            </Button>
          </Box>
          <Typography variant="h2">Why</Typography>
          {reasons.fields.map((field, i) => (
            <Box
              key={field.id}
              sx={{ display: 'grid', gap: 1, gridTemplateColumns: { sm: '3fr 1fr auto' } }}
            >
              <TextField
                label={`Reason ${i + 1}`}
                multiline
                error={Boolean(errors.reasons?.[i]?.text)}
                helperText={errors.reasons?.[i]?.text?.message}
                {...register(`reasons.${i}.text`)}
              />
              <Choice
                control={control}
                name={`reasons.${i}.rests`}
                label="Rests on"
                options={EVIDENCE}
              />
              <IconButton
                aria-label={`Remove reason ${i + 1}`}
                disabled={reasons.fields.length === 1}
                onClick={() => reasons.remove(i)}
              >
                <DeleteOutlineIcon fontSize="small" />
              </IconButton>
            </Box>
          ))}
          <Box>
            <Button
              size="small"
              variant="outlined"
              onClick={() => reasons.append({ text: '', rests: 'heard' })}
            >
              Add a reason
            </Button>
          </Box>
          <TextField
            label="What would change it"
            multiline
            error={Boolean(errors.wouldChange)}
            helperText={
              errors.wouldChange?.message ??
              'A lower price, another room, more listeners: what then?'
            }
            {...register('wouldChange')}
          />
          <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { sm: '1fr 1fr' } }}>
            <TextField
              label="Decided by"
              error={Boolean(errors.decidedBy)}
              helperText={errors.decidedBy?.message}
              {...register('decidedBy')}
            />
            <TextField
              label="Listen again on"
              type="date"
              slotProps={{ inputLabel: { shrink: true } }}
              error={Boolean(errors.listenAgain)}
              helperText={
                errors.listenAgain?.message ??
                'Some chains grow on you, others fade. May stay empty.'
              }
              {...register('listenAgain', { setValueAs: (day: string | null) => day || null })}
            />
          </Box>
          {view.sitting?.sealBroken && (
            <Note kind="caution">
              The seal of this sitting was broken before closing; the decision will say so.
            </Note>
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" type="submit" form="decision" disabled={busy}>
          Lock the decision
        </Button>
      </DialogActions>
    </Dialog>
  );
}
