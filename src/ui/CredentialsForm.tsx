'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type SigningIn, signingIn } from '@/platform/sign-in/schema';
import { forgetKeptPages } from './offline/useKeptPage';
import { RequestError } from './request';
import { Note } from './Sheet';

/** Name and password, sent with what else the door needs; then on to the first page. */
export function CredentialsForm({
  send,
  fresh,
  owner = false,
  action,
}: {
  send: (given: SigningIn) => Promise<unknown>;
  /** Whether an account is made. */
  fresh: boolean;
  /** Whether it is the first one, which needs the word that the terminal shows. */
  owner?: boolean;
  action: string;
}) {
  const router = useRouter();
  const [failure, setFailure] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm<SigningIn>({
    resolver: zodResolver(signingIn),
    defaultValues: { name: '', password: '', ...(owner ? { setupWord: '' } : {}) },
  });
  const submit = async (given: SigningIn) => {
    setFailure(null);
    try {
      await send(given);
      await forgetKeptPages();
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
      {owner && (
        <TextField
          label="Setup word"
          autoComplete="off"
          error={Boolean(errors.setupWord)}
          helperText={errors.setupWord?.message ?? 'Shown in the terminal at the start.'}
          {...register('setupWord')}
        />
      )}
      {failure && <Note kind="problem">{failure}</Note>}
      <Button type="submit" variant="contained" disabled={isSubmitting}>
        {action}
      </Button>
    </Box>
  );
}
