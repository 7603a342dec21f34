'use client';

import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useState } from 'react';
import { numberFault, readBack, readNumber, unmistakable } from '@/core/text/numbers';

/** What stands under a number that is being typed: why it is none, or how it is read. */
export function numberHint(text: string): { error: boolean; helperText: string | undefined } {
  if (text.trim() === '') return { error: false, helperText: undefined };
  const fault = numberFault(text);
  return { error: fault !== null, helperText: fault ?? readBack(text) ?? undefined };
}

const shown = (value: number, decimals: number | undefined) =>
  decimals === undefined ? unmistakable(value) : value.toFixed(decimals);

/**
 * A number that is kept when the field is left. What is typed is shown back as it is read; what is none, or could
 * be two, stays in the field with its reason and is not kept.
 */
export function DecimalField({
  label,
  value,
  least,
  most,
  empty = false,
  decimals,
  name,
  onKeep,
  ...field
}: {
  label: string;
  value: number | null;
  least: number;
  most: number;
  /** Whether nothing is a value, too. */
  empty?: boolean;
  /** How many are shown; as many as there are by default. */
  decimals?: number;
  /** For those who do not see where the field stands. */
  name?: string;
  onKeep: (value: number | null) => void;
} & Pick<TextFieldProps, 'size' | 'sx' | 'variant' | 'helperText' | 'disabled'>) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? (value === null ? '' : shown(value, decimals));
  const read = readNumber(text);
  const outside = read !== null && (read < least || read > most);
  const missing = text.trim() === '' && !empty;
  const hint = numberHint(text);
  const wrong = hint.error || outside || missing;
  const range = `A number from ${least} to ${most}.`;
  const keep = () => {
    if (typed === null || wrong) return;
    setTyped(null);
    if (read !== value) onKeep(read);
  };
  return (
    <TextField
      {...field}
      label={label}
      value={text}
      error={typed !== null && wrong}
      helperText={
        typed === null
          ? field.helperText
          : (hint.helperText ?? (outside || missing ? range : field.helperText))
      }
      slotProps={{ htmlInput: { inputMode: 'decimal', 'aria-label': name ?? label } }}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={keep}
      onKeyDown={({ key }) => {
        if (key === 'Enter') keep();
      }}
    />
  );
}
