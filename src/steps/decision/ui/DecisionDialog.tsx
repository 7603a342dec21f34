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
import { useEffect, useState } from 'react';
import { type Control, Controller, useFieldArray, useForm, useWatch } from 'react-hook-form';
import { DECISIONS } from '@/steps/decision/endpoints';
import { type DecisionDraft, decisionDraft, EVIDENCE, VERDICTS } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { day } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { useSend } from '@/ui/useSend';
import { draftKey, draftOf, keptDraft } from './decision-form';

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
  const fresh = { ...begun, decidedBy: begun.decidedBy || name };
  const key = draftKey(view.comparison.id, name);
  const [left, setLeft] = useState(() => keptDraft(localStorage.getItem(key), view));
  const { register, control, handleSubmit, formState, reset } = useForm<DecisionDraft>({
    resolver: zodResolver(decisionDraft),
    defaultValues: left?.draft ?? fresh,
  });
  const uses = useFieldArray({ control, name: 'uses' });
  const reasons = useFieldArray({ control, name: 'reasons' });
  const { errors, isDirty } = formState;
  const version = view.locked[0]?.record.version ?? 0;
  const sittingId = view.sitting?.sittingId ?? null;
  // What is being written stays on this device until it is locked.
  const draft = useWatch({ control });
  useEffect(() => {
    if (!isDirty) return;
    localStorage.setItem(key, JSON.stringify({ version, at: new Date().toISOString(), draft }));
  }, [draft, isDirty, key, version]);
  const startAnew = () => {
    reset(fresh);
    localStorage.removeItem(key);
    setLeft(null);
  };
  const lock = async (written: DecisionDraft) => {
    const body = {
      draft: { ...written, listenAgain: written.listenAgain || null },
      version,
      sittingId,
    };
    if (!(await send(DECISIONS.lock, { id: view.comparison.id }, body))) return;
    localStorage.removeItem(key);
    onClose();
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
          {left && (
            <Note kind="plain">
              What you began on {day(left.at)} is here again; it is kept on this device until it is
              locked.{' '}
              <Button size="small" onClick={startAnew}>
                Start anew
              </Button>
            </Note>
          )}
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
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" type="submit" form="decision" disabled={busy}>
          Lock the decision
        </Button>
      </DialogActions>
    </Dialog>
  );
}
