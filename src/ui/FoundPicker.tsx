'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { debounce } from '@mui/material/utils';
import { type ReactNode, useMemo, useState } from 'react';
import { useRead } from './useRead';

export interface Found {
  id: string;
  name: string;
}

const TYPING_MS = 150;

/** Picks several of a list that is too long to send: what fits what is typed is asked for, the first by name. */
export function FoundPicker({
  from,
  label,
  helperText,
  without,
  value,
  onChange,
}: {
  /** Address that answers `?q=` with what was found. */
  from: string;
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
  const { data, error, isLoading } = useRead<{ found: Found[] }>(
    open ? `${from}?${new URLSearchParams({ q: asked })}` : null,
    { keepPreviousData: true },
  );
  return (
    <Autocomplete
      multiple
      size="small"
      sx={{ flex: 1 }}
      open={open}
      onOpen={() => setOpen(true)}
      onClose={() => setOpen(false)}
      options={data?.found.filter(({ id }) => id !== without) ?? []}
      // The server looked already.
      filterOptions={(options) => options}
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
