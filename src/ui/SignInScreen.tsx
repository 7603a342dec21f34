'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type Credentials, credentials } from '@/platform/sign-in/schema';
import { request, RequestError } from './request';
import { Note } from './Sheet';
import { token } from './tokens';

/** Sign-in; at the first start it makes the engineer's account. */
export function SignInScreen({ firstStart }: { firstStart: boolean }) {
  const router = useRouter();
  const [failure, setFailure] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm<Credentials>({
    resolver: zodResolver(credentials),
    defaultValues: { name: '', password: '' },
  });
  const submit = async (given: Credentials) => {
    setFailure(null);
    try {
      await request('POST', '/api/sign-in', { ...given, first: firstStart });
      router.push('/');
      router.refresh();
    } catch (error) {
      setFailure(error instanceof RequestError ? error.message : 'This did not work; try again.');
    }
  };
  const { errors, isSubmitting } = formState;
  return (
    <Box component="main" sx={{ maxWidth: 420, mx: 'auto', pt: { xs: 6, md: 12 }, px: 2 }}>
      <Box
        sx={{
          bgcolor: token('sheet'),
          border: `1px solid ${token('rule')}`,
          borderTop: `4px double ${token('red')}`,
          p: 4,
        }}
      >
        <Typography variant="h1" gutterBottom>
          {firstStart ? 'Open your Zeitbank' : 'Sign in to Zeitbank'}
        </Typography>
        <Typography sx={{ color: token('soft'), mb: 2.5 }}>
          {firstStart
            ? 'You are the first here. Your name and a password make you its engineer; listeners need neither.'
            : 'For engineers. Listeners use the link they were sent.'}
        </Typography>
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
            autoComplete={firstStart ? 'new-password' : 'current-password'}
            error={Boolean(errors.password)}
            helperText={errors.password?.message ?? (firstStart ? 'At least 10 characters.' : '')}
            {...register('password')}
          />
          {failure && <Note kind="problem">{failure}</Note>}
          <Button type="submit" variant="contained" disabled={isSubmitting}>
            {firstStart ? 'Open' : 'Sign in'}
          </Button>
        </Box>
      </Box>
    </Box>
  );
}
