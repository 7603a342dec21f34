'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type Credentials, credentials } from '@/platform/sign-in/schema';
import { request, RequestError } from './request';
import { Note } from './Sheet';

/** Name and password, sent with what else the door needs; then on to the first page. */
export function CredentialsForm({
  address,
  extra,
  fresh,
  action,
}: {
  address: string;
  extra: object;
  /** Whether an account is made. */
  fresh: boolean;
  action: string;
}) {
  const router = useRouter();
  const [failure, setFailure] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm<Credentials>({
    resolver: zodResolver(credentials),
    defaultValues: { name: '', password: '' },
  });
  const submit = async (given: Credentials) => {
    setFailure(null);
    try {
      await request('POST', address, { ...given, ...extra });
      router.push('/');
      router.refresh();
    } catch (error) {
      setFailure(error instanceof RequestError ? error.message : 'This did not work; try again.');
    }
  };
  const { errors, isSubmitting } = formState;
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(event) => void handleSubmit(submit)(event)}
      sx={{ display: 'grid', gap: 2 }}
    >
      <TextField
        label="Name"
        autoComplete="username"
        autoFocus
        error={Boolean(errors.name)}
        helperText={errors.name?.message}
        {...register('name')}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete={fresh ? 'new-password' : 'current-password'}
        error={Boolean(errors.password)}
        helperText={errors.password?.message ?? (fresh ? 'At least 10 characters.' : '')}
        {...register('password')}
      />
      {failure && <Note kind="problem">{failure}</Note>}
      <Button type="submit" variant="contained" disabled={isSubmitting}>
        {action}
      </Button>
    </Box>
  );
}
