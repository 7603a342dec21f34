'use client';

import { PATTERN_NAMES } from '@/core/chain/specs';
import {
  MOST_DETAIL,
  type PlannedStep,
  plannedFault,
  programmeStep,
} from '@/core/checks/programme';
import { TypedValues } from '@/ui/TypedValues';

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
    <TypedValues
      label={`${label}: ${detail ?? ''}`}
      options={known}
      value={step.details}
      longest={MOST_DETAIL}
      placeholder={step.details.length === 0 ? usually : ''}
      error={fault !== null}
      helperText={
        fault ??
        (step.details.length === 0 && usually !== ''
          ? `The usual: ${usually}${unit ?? ''}. Enter adds another.`
          : 'Enter adds one.')
      }
      onChange={onChange}
      sx={{ mb: 1.5, maxWidth: 640 }}
    />
  );
}
