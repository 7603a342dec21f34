'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField, { type TextFieldProps } from '@mui/material/TextField';

/** Words or numbers that are typed one by one, or chosen; each stands once. */
export function TypedValues({
  options,
  value,
  longest,
  onChange,
  sx,
  ...field
}: {
  options: readonly string[];
  value: string[];
  /** Characters of each; what is longer is cut. */
  longest?: number;
  onChange: (values: string[]) => void;
} & Pick<TextFieldProps, 'label' | 'placeholder' | 'error' | 'helperText' | 'sx'>) {
  return (
    <Autocomplete
      multiple
      freeSolo
      autoSelect
      size="small"
      options={options.filter((one) => !value.includes(one))}
      value={value}
      onChange={(_, values) =>
        onChange([...new Set(values.map((one) => one.trim().slice(0, longest)).filter(Boolean))])
      }
      renderInput={(parameters) => <TextField {...parameters} {...field} />}
      sx={sx}
    />
  );
}
