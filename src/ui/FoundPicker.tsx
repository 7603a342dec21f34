'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { debounce } from '@mui/material/utils';
import { type ReactNode, useMemo, useState } from 'react';
import type { z } from 'zod';
import type { Endpoint, found, Ids } from '@/platform/endpoint';
import { useRead } from './useRead';

export type Found = z.infer<typeof found>['found'][number];

const TYPING_MS = 150;

/** Picks several of a list that is too long to send: names that hold what is typed are asked for, the first of them. */
export function FoundPicker<Path extends string>({
  from,
  ids,
  label,
  helperText,
  without,
  value,
  onChange,
}: {
  /** What answers `?q=` with what was found. */
  from: Endpoint<Path, undefined, undefined, z.infer<typeof found>>;
  ids: Ids<Path>;
  label: string;
  helperText?: ReactNode;
  /** Of what was found, this one cannot be picked. */
  without?: string;
  value: Found[];
  onChange: (chosen: Found[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState('');
  const ask = useMemo(() => debounce(setAsked, TYPING_MS), []);
  const { data, error, isLoading } = useRead(from, open ? ids : null, {
    query: { q: asked },
    keepPreviousData: true,
  });
  return (
    <Autocomplete
      multiple
      size="small"
      sx={{ flex: 1 }}
      open={open}
      onOpen={() => setOpen(true)}
      onClose={() => setOpen(false)}
      options={data?.found.filter(({ id }) => id !== without) ?? []}
      // Until the bank has answered, what it found before is narrowed as it would: nothing moves under the pointer then.
      filterOptions={(options, { inputValue }) => {
        const typed = inputValue.trim().toLowerCase();
        return options.filter(({ name }) => name.toLowerCase().includes(typed));
      }}
      filterSelectedOptions
      loading={isLoading}
      loadingText="Looking …"
      noOptionsText={error ? error.message : 'Nothing of this name.'}
      value={value}
      getOptionKey={({ id }) => id}
      getOptionLabel={({ name }) => name}
      isOptionEqualToValue={(one, other) => one.id === other.id}
      onInputChange={(_, typed) => ask(typed.trim())}
      onChange={(_, chosen) => onChange(chosen)}
      renderInput={(parameters) => (
        <TextField {...parameters} label={label} helperText={helperText} />
      )}
    />
  );
}
