'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { PATTERN_NAMES } from '@/core/chain/specs';
import {
  MOST_DETAIL,
  type PlannedStep,
  plannedFault,
  programmeStep,
} from '@/core/checks/programme';

/** Angles, distances, switches that a step is recorded with: the usual ones, or the engineer's own. */
export function DetailsField({
  step,
  onChange,
}: {
  step: PlannedStep;
  onChange: (details: string[]) => void;
}) {
  const { id, label, detail, usual, unit } = programmeStep(step.programme);
  const known = id === 'pattern' ? PATTERN_NAMES : usual.filter(Boolean);
  const fault = plannedFault(step);
  const usually = usual.filter(Boolean).join(', ');
  return (
    <Autocomplete
      multiple
      freeSolo
      autoSelect
      size="small"
      options={known.filter((one) => !step.details.includes(one))}
      value={step.details}
      onChange={(_, details) =>
        onChange(details.map((one) => one.trim().slice(0, MOST_DETAIL)).filter(Boolean))
      }
      renderInput={(params) => (
        <TextField
          {...params}
          label={`${label}: ${detail ?? ''}`}
          placeholder={step.details.length === 0 ? usually : ''}
          error={fault !== null}
          helperText={
            fault ??
            (step.details.length === 0 && usually !== ''
              ? `The usual: ${usually}${unit ?? ''}. Enter adds another.`
              : 'Enter adds one.')
          }
        />
      )}
      sx={{ mb: 1.5, maxWidth: 640 }}
    />
  );
}
