'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { PlannedStep } from '@/core/checks/programme';
import { TAKES } from '@/steps/takes/endpoints';
import type { RunSheetPlan } from '@/steps/takes/plans';
import type { RunSheetView } from '@/steps/takes/run-sheet';
import { countWord } from '@/ui/format';
import { NextLink } from '@/ui/NextLink';
import { Note, PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { areRecordable, StepChoices } from './StepChoices';

/** A short cheap test is better than none; the noise floor is what is most often regretted. */
const USUAL: PlannedStep[] = [
  { programme: 'room', details: [] },
  { programme: 'speech', details: [] },
];

function CountField({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number) => void;
}) {
  return (
    <TextField
      label={label}
      type="number"
      value={value}
      slotProps={{ htmlInput: { min: least, max: most } }}
      onChange={({ target }) =>
        onChange(Math.max(least, Math.min(most, Math.round(Number(target.value)) || least)))
      }
      sx={{ width: 190 }}
    />
  );
}

/** From the plan to a sheet: order, takes, the test programme. */
export function RunPlanForm({ comparisonId, view }: { comparisonId: string; view: RunSheetView }) {
  const { send, busy } = useSend();
  const [plan, setPlan] = useState<RunSheetPlan>({
    order: view.sources[0]!.capture === 'at once' ? 'at once' : 'rotated',
    takes: 2,
    referenceEvery: 4,
    days: 1,
    programme: view.programme.length > 0 ? view.programme : USUAL,
    sourceIds: [view.sources[0]!.id],
    seed: 1,
  });
  const set = (change: Partial<RunSheetPlan>) => setPlan((before) => ({ ...before, ...change }));
  const toggled = <T,>(list: readonly T[], one: T, on: boolean): T[] =>
    on ? [...list, one] : list.filter((other) => other !== one);
  const atOnce = plan.order === 'at once';
  if (view.chains === 0) {
    return (
      <>
        <PageHeading finding="A run sheet needs chains" />
        <Typography sx={{ mb: 2 }}>
          Plan at least one chain; the sheet then says in which order to record, what to set and
          what to write down.
        </Typography>
        <Button
          component={NextLink}
          href={`/comparisons/${comparisonId}/chains`}
          variant="contained"
        >
          Go to the chains
        </Button>
      </>
    );
  }
  return (
    <Box>
      <PageHeading
        finding="Write the run sheet"
        aside="In which order chains are recorded, what to set, what to write down; on paper or on a phone beside the stand."
        action={
          <Button
            variant="contained"
            disabled={busy || plan.sourceIds.length === 0 || !areRecordable(plan.programme)}
            onClick={() => void send(TAKES.writeRunSheet, { id: comparisonId }, plan)}
          >
            Write the sheet
          </Button>
        }
      />
      {!view.hasReference && (
        <Note kind="caution">
          No chain is the reference yet. With one the sheet lets it return, so that a performer’s
          drift can be seen; choose it at Chains.
        </Note>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, my: 2 }}>
        <TextField
          select
          label="Order of the chains"
          value={plan.order}
          onChange={({ target }) => set({ order: target.value as RunSheetPlan['order'] })}
          sx={{ width: 260 }}
        >
          <MenuItem value="at once">all at once, side by side</MenuItem>
          <MenuItem value="rotated">rotated from round to round</MenuItem>
          <MenuItem value="randomised">drawn for each round</MenuItem>
        </TextField>
        <CountField
          label={atOnce ? 'Performances' : 'Takes of each chain'}
          value={plan.takes}
          least={1}
          most={12}
          onChange={(takes) => set({ takes })}
        />
        {!atOnce && (
          <CountField
            label="Reference after every … takes"
            value={plan.referenceEvery}
            least={0}
            most={50}
            onChange={(referenceEvery) => set({ referenceEvery })}
          />
        )}
        <CountField
          label="Days"
          value={plan.days}
          least={1}
          most={14}
          onChange={(days) => set({ days })}
        />
        {plan.order === 'randomised' && (
          <CountField
            label="Seed of the draw"
            value={plan.seed}
            least={0}
            most={1_000_000}
            onChange={(seed) => set({ seed })}
          />
        )}
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '72ch' }}>
        {atOnce
          ? 'At once: a line is one performance with all chains, so that nothing but the chains differs. Two performances tell how much the player differs.'
          : 'Rotated: every chain comes early and late equally often, and the sheet can be followed without looking. Some prefer a drawn order; its seed is kept.'}
      </Typography>
      {atOnce && view.shared.length > 0 && (
        <Note kind="caution">
          {view.shared
            .map(
              ({ name, chains }) => `${name} stands in ${countWord(chains, 'chain').toLowerCase()}`,
            )
            .join(', ')}
          . Side by side that takes a channel or a splitter for each; without them choose another
          order.
        </Note>
      )}
      {view.sources.length > 1 && (
        <>
          <Typography variant="h2" sx={{ mt: 2 }}>
            Who is recorded
          </Typography>
          {view.sources.map(({ id, name }) => (
            <FormControlLabel
              key={id}
              label={name}
              control={
                <Checkbox
                  checked={plan.sourceIds.includes(id)}
                  onChange={(_, on) => set({ sourceIds: toggled(plan.sourceIds, id, on) })}
                />
              }
            />
          ))}
        </>
      )}
      <Typography variant="h2" sx={{ mt: 2 }}>
        Test programme, once with each chain
      </Typography>
      <StepChoices
        withPerformance={false}
        chosen={plan.programme}
        onChange={(programme) => set({ programme })}
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
        Plosives are left out for ribbons: a blast of air can stretch or tear them.
      </Typography>
    </Box>
  );
}
