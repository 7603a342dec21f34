'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { type PlannedStep, plannedFault, PROGRAMME, programmeStep } from '@/core/checks/programme';
import { DetailsField } from './DetailsField';

/** Whether all of these can be recorded as they are. */
export function areRecordable(steps: readonly PlannedStep[]): boolean {
  return steps.every((step) => plannedFault(step) === null);
}

/** Which steps of the test programme, and with what; a backing track is never recorded. */
export function StepChoices({
  withPerformance,
  chosen,
  onChange,
}: {
  withPerformance: boolean;
  chosen: readonly PlannedStep[];
  onChange: (steps: PlannedStep[]) => void;
}) {
  const steps = PROGRAMME.filter(
    ({ id }) => id !== 'backing' && (withPerformance || id !== 'performance'),
  );
  const detailed = chosen.filter(({ programme }) => programmeStep(programme).detail !== null);
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: { sm: '1fr 1fr' } }}>
        {steps.map(({ id, label }) => (
          <FormControlLabel
            key={id}
            label={label}
            control={
              <Checkbox
                checked={chosen.some(({ programme }) => programme === id)}
                onChange={(_, on) =>
                  onChange(
                    on
                      ? [...chosen, { programme: id, details: [] }]
                      : chosen.filter(({ programme }) => programme !== id),
                  )
                }
              />
            }
          />
        ))}
      </Box>
      {detailed.length > 0 && (
        <Box role="group" aria-label="What each step is recorded with" sx={{ mt: 1.5 }}>
          {detailed.map((step) => (
            <DetailsField
              key={step.programme}
              step={step}
              onChange={(details) =>
                onChange(
                  chosen.map((one) =>
                    one.programme === step.programme ? { ...one, details } : one,
                  ),
                )
              }
            />
          ))}
        </Box>
      )}
    </>
  );
}
