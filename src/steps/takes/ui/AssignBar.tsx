'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import {
  detailsOf,
  type PlannedStep,
  PROGRAMME,
  type ProgrammeId,
  programmeStep,
} from '@/core/checks/programme';
import type { Chain } from '@/steps/chains/schema';
import type { Source } from '@/steps/comparisons/schema';
import type { ShownTake, TakesChange } from '@/steps/takes/schema';
import { countWord } from '@/ui/format';
import { token } from '@/ui/tokens';

/** Instead of a number: what the takes themselves say. */
const FOUND = 'found';

/** The one value that all have, or nothing. */
function common<T>(values: readonly T[]): T | '' {
  return values.every((value) => value === values[0]) ? values[0]! : '';
}

/** What is done to all chosen takes at once. */
export function AssignBar({
  chains,
  sources,
  takes,
  programme: planned,
  performances,
  onChange,
  onRemove,
  onDone,
}: {
  chains: Chain[];
  sources: Source[];
  takes: ShownTake[];
  /** The test programme as planned: its details are offered. */
  programme: PlannedStep[];
  /** The highest number of a performance that there is. */
  performances: number;
  onChange: (what: Omit<TakesChange, 'takeIds'>) => void;
  onRemove: () => void;
  onDone: () => void;
}) {
  const programme = common(takes.map((take) => take.programme));
  const asked = programme === '' ? null : programmeStep(programme).detail;
  const known =
    programme === ''
      ? []
      : detailsOf(
          planned.find((step) => step.programme === programme) ?? { programme, details: [] },
        ).filter(Boolean);
  const given = common(takes.map(({ detail }) => detail));
  const [detail, setDetail] = useState<string | null>(null);
  return (
    <Box
      role="group"
      aria-label="Chosen takes"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 1.5,
        alignItems: 'center',
        p: 1.5,
        my: 1,
        bgcolor: token('wash'),
      }}
    >
      <Box sx={{ minWidth: 110 }}>{countWord(takes.length, 'take')} chosen</Box>
      <TextField
        select
        label="To the chain"
        value={common(takes.map(({ chainId }) => chainId ?? '-'))}
        onChange={({ target }) => onChange({ chainId: target.value === '-' ? null : target.value })}
        sx={{ width: 190 }}
      >
        <MenuItem value="-">no chain</MenuItem>
        {chains.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="They hold"
        value={programme}
        onChange={({ target }) => {
          setDetail(null);
          onChange({ programme: target.value as ProgrammeId, detail: '' });
        }}
        sx={{ width: 210 }}
      >
        {PROGRAMME.map(({ id, label }) => (
          <MenuItem key={id} value={id}>
            {label}
          </MenuItem>
        ))}
      </TextField>
      {asked && (
        <Autocomplete
          freeSolo
          size="small"
          options={[...known]}
          inputValue={detail ?? given}
          onInputChange={(_, value, why) => {
            if (why !== 'reset') setDetail(value);
          }}
          onChange={(_, value) => {
            setDetail(value);
            if (value !== null) onChange({ detail: value });
          }}
          onBlur={() => detail !== null && detail !== given && onChange({ detail })}
          renderInput={(params) => <TextField {...params} label={asked} />}
          sx={{ width: 190 }}
        />
      )}
      {programme === 'performance' && takes.every(({ chainId }) => chainId !== null) && (
        <TextField
          select
          label="Performance"
          value={common(takes.map(({ performance: of }) => of?.number ?? ''))}
          onChange={({ target }) =>
            onChange({ performance: target.value === FOUND ? null : Number(target.value) })
          }
          sx={{ width: 150 }}
        >
          <MenuItem value={FOUND}>as found</MenuItem>
          {Array.from({ length: performances + 1 }, (_, i) => i + 1).map((number) => (
            <MenuItem key={number} value={number}>
              {number}
            </MenuItem>
          ))}
        </TextField>
      )}
      {sources.length > 1 && (
        <TextField
          select
          label="Of the source"
          value={common(takes.map(({ sourceId }) => sourceId))}
          onChange={({ target }) => onChange({ sourceId: target.value })}
          sx={{ width: 170 }}
        >
          {sources.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Button onClick={onRemove}>Remove</Button>
      <Button onClick={onDone}>Done</Button>
    </Box>
  );
}
