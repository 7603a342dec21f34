'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { PROGRAMME, type ProgrammeId } from '@/core/checks/programme';

/** Which steps of the test programme; a backing track is never recorded. */
export function StepChoices({
  withPerformance,
  chosen,
  onChange,
}: {
  withPerformance: boolean;
  chosen: readonly ProgrammeId[];
  onChange: (steps: ProgrammeId[]) => void;
}) {
  const steps = PROGRAMME.filter(
    ({ id }) => id !== 'backing' && (withPerformance || id !== 'performance'),
  );
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '1fr 1fr' } }}>
      {steps.map(({ id, label }) => (
        <FormControlLabel
          key={id}
          label={label}
          control={
            <Checkbox
              checked={chosen.includes(id)}
              onChange={(_, on) =>
                onChange(on ? [...chosen, id] : chosen.filter((other) => other !== id))
              }
            />
          }
        />
      ))}
    </Box>
  );
}
