'use client';

import TextField, { type TextFieldProps } from '@mui/material/TextField';
import type { FieldErrors, UseFormRegister } from 'react-hook-form';
import type { ComparisonDraft } from '@/steps/comparisons/schema';

/** The four fields of a question. */
export function ComparisonFields<T extends ComparisonDraft>({
  register: registerWhole,
  errors: allErrors,
  fixed,
}: {
  register: UseFormRegister<T>;
  errors: FieldErrors<T>;
  /** How the question itself looks while it is sealed, and why. */
  fixed?: Pick<TextFieldProps, 'slotProps' | 'helperText'>;
}) {
  // Of a longer form these are the first four fields.
  const register = registerWhole as unknown as UseFormRegister<ComparisonDraft>;
  const errors = allErrors as FieldErrors<ComparisonDraft>;
  return (
    <>
      <TextField
        label="Title"
        placeholder="Contralto, which chain?"
        error={Boolean(errors.title)}
        helperText={errors.title?.message}
        {...register('title')}
      />
      <TextField
        label="The question, and what will be decided by it"
        multiline
        minRows={3}
        slotProps={fixed?.slotProps}
        error={Boolean(errors.question)}
        helperText={
          errors.question?.message ??
          fixed?.helperText ??
          'For this voice, this song, this room and this money: which chain? Never “which is best”.'
        }
        {...register('question')}
      />
      <TextField
        label="Who or what is heard"
        placeholder="Contralto, close"
        error={Boolean(errors.sourceName)}
        helperText={errors.sourceName?.message}
        {...register('sourceName')}
      />
      <TextField
        label="Passage"
        placeholder="quiet verse"
        error={Boolean(errors.passageName)}
        helperText={errors.passageName?.message ?? 'The stretch that every chain gets, 5 to 25 s.'}
        {...register('passageName')}
      />
    </>
  );
}
