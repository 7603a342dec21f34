'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import { useForm } from 'react-hook-form';
import { type PasswordChange, passwordChange } from '@/platform/sign-in/schema';
import { HOUSE } from '@/platform/endpoints';
import { onlyPlaceOf, type Role } from '@/platform/sign-in/roles';
import { MarginNote, PageHeading } from './Sheet';
import { StudioFrame } from './StudioFrame';
import { useSend } from './useSend';

const FIELDS = [
  ['current', 'Password now', 'current-password'],
  ['next', 'New password', 'new-password'],
] as const;

/** One's own account: the password. */
export function AccountScreen({ name, role }: { name: string; role: Role }) {
  const { send, busy } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const { register, handleSubmit, formState, reset } = useForm<PasswordChange>({
    resolver: zodResolver(passwordChange),
    defaultValues: { current: '', next: '' },
  });
  const submit = async (change: PasswordChange) => {
    if ((await send(HOUSE.changePassword, {}, change)) === null) return;
    reset();
    enqueueSnackbar('The password is changed; you are signed out everywhere else.', {
      variant: 'success',
    });
  };
  return (
    <StudioFrame
      name={name}
      only={onlyPlaceOf(role)}
      margin={
        <MarginNote title="Devices">
          A new password signs you out on every other device at once.
        </MarginNote>
      }
    >
      <PageHeading finding={`${name}, ${role}`} aside="Your account in this Zeitbank." />
      <Box
        component="form"
        noValidate
        aria-label="Change the password"
        onSubmit={(event) => void handleSubmit(submit)(event)}
        sx={{ display: 'grid', gap: 2, maxWidth: 360, mt: 2 }}
      >
        {FIELDS.map(([field, label, autoComplete]) => (
          <TextField
            key={field}
            label={label}
            type="password"
            autoComplete={autoComplete}
            error={Boolean(formState.errors[field])}
            helperText={
              formState.errors[field]?.message ??
              (field === 'next' ? 'At least 10 characters.' : '')
            }
            {...register(field)}
          />
        ))}
        <Box>
          <Button type="submit" variant="contained" disabled={busy}>
            Change password
          </Button>
        </Box>
      </Box>
    </StudioFrame>
  );
}
