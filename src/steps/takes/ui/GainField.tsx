'use client';

import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useState } from 'react';
import { gainText, readGain } from '@/steps/takes/gain-text';
import type { Written } from '@/steps/takes/log-entry';
import { numberHint } from '@/ui/DecimalField';

/** A gain in decibels, or where a knob without a scale stands; kept when the field is left. */
export function GainField({
  name,
  value,
  onKeep,
  sx,
}: {
  /** For those who do not see where the field stands. */
  name: string;
  value: Pick<Written, 'gainDb' | 'knob'>;
  onKeep: (gain: Pick<Written, 'gainDb' | 'knob'>) => void;
} & Pick<TextFieldProps, 'sx'>) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? gainText(value);
  const read = readGain(text);
  const fault = typeof read === 'string' ? read : null;
  const hint =
    typeof read !== 'string' && read.gainDb !== null ? numberHint(text).helperText : undefined;
  const keep = () => {
    if (typed === null || typeof read === 'string') return;
    setTyped(null);
    if (gainText(read) !== gainText(value)) onKeep(read);
  };
  return (
    <TextField
      label="Real gain, dB"
      placeholder="or knob 3"
      value={text}
      error={typed !== null && fault !== null}
      helperText={typed === null ? undefined : (fault ?? hint)}
      slotProps={{ htmlInput: { 'aria-label': name } }}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={keep}
      onKeyDown={({ key }) => {
        if (key === 'Enter') keep();
      }}
      sx={sx}
    />
  );
}
