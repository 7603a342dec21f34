'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { accountOf } from '@/steps/sitting/account';
import { type SittingAccount, type SittingDraft, sittingDraft } from '@/steps/sitting/schema';
import { PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { MinutesAccount } from './MinutesAccount';

/** The plan of a sitting: what is asked, of how many, and what that buys. */
export function SittingPlan({
  base,
  draftId,
  sets,
  initial,
  account,
  secondary,
}: {
  base: string;
  draftId: string | null;
  /** What can be listened to. */
  sets: { id: string; name: string }[];
  initial: SittingDraft;
  account: SittingAccount;
  secondary: boolean;
}) {
  const { send, busy } = useSend();
  const { register, control, handleSubmit, formState } = useForm<SittingDraft>({
    resolver: zodResolver(sittingDraft),
    defaultValues: {
      title: initial.title,
      prompt: initial.prompt,
      tiesAllowed: initial.tiesAllowed,
      trialsPerListener: initial.trialsPerListener,
      seats: initial.seats,
      codeMode: initial.codeMode,
      clipSetId: initial.clipSetId,
    },
  });
  const { errors } = formState;
  const [seats, trialsPerListener] = useWatch({ control, name: ['seats', 'trialsPerListener'] });
  const whole = (value: number, fallback: number) =>
    Number.isInteger(value) && value > 0 && value <= 200 ? value : fallback;
  const plan = {
    seats: whole(seats, initial.seats),
    trialsPerListener: whole(trialsPerListener, initial.trialsPerListener),
  };
  const now = accountOf(plan, account.chains, account.clipSeconds);
  const keep = (draft: SittingDraft) => send<{ id: string }>('PUT', base, draft);
  const seal = async (draft: SittingDraft) => {
    const kept = await keep(draft);
    if (kept) await send('POST', `${base}/${kept.id}/open`);
  };
  const number = (name: 'seats' | 'trialsPerListener', label: string, help: string) => (
    <TextField
      label={label}
      type="number"
      error={Boolean(errors[name])}
      helperText={errors[name]?.message ?? help}
      {...register(name, { valueAsNumber: true })}
    />
  );
  return (
    <Box sx={{ mt: secondary ? 5 : 0 }}>
      <PageHeading
        finding="What the panel’s minutes will buy"
        aside="Pairs: two recordings, which suits the part better? After sealing nothing of this can change."
        action={
          <>
            <Button
              variant="outlined"
              disabled={busy}
              onClick={(event) =>
                void handleSubmit((draft) => keep(draft).then(() => undefined))(event)
              }
            >
              Keep for later
            </Button>
            <Button
              variant="contained"
              disabled={busy}
              onClick={(event) => void handleSubmit(seal)(event)}
            >
              Seal and open
            </Button>
          </>
        }
      />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { md: '1fr 1fr' },
          gap: 2,
          maxWidth: 760,
          mb: 3,
        }}
      >
        {sets.length > 1 && (
          <Controller
            control={control}
            name="clipSetId"
            render={({ field: { value, ...field } }) => (
              <TextField
                select
                label="Clips they hear"
                helperText="One passage in one context; each has a sitting of its own."
                value={value ?? sets[0].id}
                {...field}
              >
                {sets.map(({ id, name }) => (
                  <MenuItem key={id} value={id}>
                    {name}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
        )}
        <TextField
          label="What listeners are told they hear"
          error={Boolean(errors.title)}
          helperText={errors.title?.message ?? 'No chain may be named here.'}
          {...register('title')}
        />
        <TextField
          label="The question they answer"
          error={Boolean(errors.prompt)}
          helperText={errors.prompt?.message}
          {...register('prompt')}
        />
        {number(
          'seats',
          'Listeners, at most',
          'In twos, so that each order comes as often as its mirror.',
        )}
        {number(
          'trialsPerListener',
          'Trials for each',
          `${account.pairs} let everyone hear every pair once.`,
        )}
        <Controller
          control={control}
          name="codeMode"
          render={({ field }) => (
            <TextField
              select
              label="Code words"
              helperText="Fresh words keep one trial’s liking out of the next; fixed ones can be talked about."
              {...field}
            >
              <MenuItem value="fresh">fresh in each trial (the default)</MenuItem>
              <MenuItem value="fixed">one per recording, all through</MenuItem>
            </TextField>
          )}
        />
        <Controller
          control={control}
          name="tiesAllowed"
          render={({ field: { value, ...field } }) => (
            <FormControlLabel
              control={<Switch checked={value} {...field} />}
              label="“No preference” may be answered"
            />
          )}
        />
      </Box>
      <MinutesAccount account={now} plan={plan} />
      <Typography variant="h2" sx={{ mt: 3 }}>
        Order and seal
      </Typography>
      <Typography sx={{ color: token('soft'), maxWidth: '76ch' }}>
        Each recording comes first as often as second, every pair equally often, no pair twice
        running. On sealing, the key is drawn and its SHA-256 is shown to every listener; after
        closing, anyone can check it with the key file.
      </Typography>
      {draftId && (
        <Button
          sx={{ mt: 2 }}
          color="error"
          disabled={busy}
          onClick={() => void send('DELETE', `${base}/${draftId}`)}
        >
          Discard this plan
        </Button>
      )}
    </Box>
  );
}
