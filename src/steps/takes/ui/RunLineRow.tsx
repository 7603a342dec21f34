'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { programmeLabel, programmeStep } from '@/core/checks/programme';
import type { Written } from '@/steps/takes/log-entry';
import type { RunLine } from '@/steps/takes/run-sheet-store';
import { DecimalField } from '@/ui/DecimalField';
import { day } from '@/ui/format';
import { token } from '@/ui/tokens';
import { GainField } from './GainField';

/** "done, gain 38 dB, 20 cm, “clip slipped”" */
function writingWords({ done, gainDb, knob, distanceM, remark }: Written): string {
  return [
    done ? 'done' : 'not done',
    gainDb === null ? '' : `gain ${gainDb} dB`,
    knob === '' ? '' : `knob at ${knob}`,
    distanceM === null ? '' : `${Math.round(1000 * distanceM) / 10} cm`,
    remark === '' ? '' : `“${remark}”`,
  ]
    .filter(Boolean)
    .join(', ');
}

function pick(other: Written | null): Partial<Written> {
  if (!other) return {};
  const { done, gainDb, knob, distanceM, remark } = other;
  return { done, gainDb, knob, distanceM, remark };
}

const TALL = { xs: 52, md: 36 };
const NARROW = { width: { xs: '48%', md: 128 }, '& .MuiInputBase-root': { minHeight: TALL } };

/** One line: what to set, what to record; ticked off and logged beside the stand. */
export function RunLineRow({
  line,
  settings,
  stop,
  severalSources,
  isNext,
  onWrite,
}: {
  line: RunLine;
  settings: string[];
  /** What must not be plugged in as it is planned; nothing is ordered then. */
  stop: string | null;
  severalSources: boolean;
  isNext: boolean;
  onWrite: (entry: Partial<Written>) => void;
}) {
  const { chainName, programme, detail, takeNumber, sourceName } = line;
  const step = programmeStep(programme);
  const performance = programme === 'performance';
  const what = performance ? `take ${takeNumber}` : programmeLabel(programme, detail);
  const name = `${chainName}, ${what}`;
  const cm = (metres: number | null) => (metres === null ? null : Math.round(1000 * metres) / 10);
  const [remark, setRemark] = useState<string | null>(null);
  const planned = [
    line.plannedGainDb === null ? null : `gain ${line.plannedGainDb} dB`,
    line.plannedDistanceM === null ? null : `${cm(line.plannedDistanceM)} cm`,
  ].filter(Boolean);
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        flexWrap: { xs: 'wrap', md: 'nowrap' },
        gap: 1.25,
        alignItems: 'center',
        py: 1.25,
        px: { xs: 0, md: 1 },
        borderBottom: `1px solid ${token('hair')}`,
        bgcolor: isNext ? token('wash') : undefined,
        breakInside: 'avoid',
        '@media print': { bgcolor: 'transparent', py: 0.5 },
      }}
    >
      <Checkbox
        checked={line.done}
        slotProps={{ input: { 'aria-label': `Done: ${name}` } }}
        onChange={(_, done) => onWrite({ done })}
        sx={{ p: { xs: 1.5, md: 1 }, '& svg': { fontSize: { xs: 32, md: 24 } } }}
      />
      <Box sx={{ flex: { xs: '1 1 180px', md: '1 1 240px' }, minWidth: 0 }}>
        <Box sx={{ fontWeight: isNext ? 600 : 400, fontSize: { xs: '1.05rem', md: '0.9375rem' } }}>
          {chainName} · {what}
          {severalSources && ` · ${sourceName}`}
        </Box>
        <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
          {stop ? (
            <Box component="span" role="alert" sx={{ color: token('red'), fontWeight: 600 }}>
              {stop}
            </Box>
          ) : (
            <>
              {planned.length > 0 && <Box component="span">Set {planned.join(', ')}. </Box>}
              {performance && takeNumber > 1
                ? 'As before.'
                : performance
                  ? settings.join(' › ')
                  : step.how}
            </>
          )}
          {line.other && (
            <Box component="span" sx={{ display: 'block', color: token('ochre') }}>
              Another device wrote at {day(line.other.writtenAt)}: {writingWords(line.other)}.{' '}
              <Button size="small" sx={{ py: 0 }} onClick={() => onWrite(pick(line.other))}>
                Take that instead
              </Button>
            </Box>
          )}
          {step.caution && (
            <Box component="span" sx={{ color: token('ochre') }}>
              {' '}
              {step.caution}
            </Box>
          )}
        </Box>
      </Box>
      <GainField name={`Real gain, dB of ${name}`} sx={NARROW} value={line} onKeep={onWrite} />
      <DecimalField
        label="Distance, cm"
        name={`Distance, cm of ${name}`}
        empty
        sx={NARROW}
        value={cm(line.distanceM)}
        least={0}
        most={100_000}
        onKeep={(distance) => onWrite({ distanceM: distance === null ? null : distance / 100 })}
      />
      <TextField
        label="Remark"
        value={remark ?? line.remark}
        slotProps={{ htmlInput: { maxLength: 500, 'aria-label': `Remark of ${name}` } }}
        onChange={({ target }) => setRemark(target.value)}
        onBlur={() => {
          if (remark !== null && remark !== line.remark) onWrite({ remark });
          setRemark(null);
        }}
        sx={{
          flex: { xs: '1 1 100%', md: '0 1 190px' },
          '& .MuiInputBase-root': { minHeight: TALL },
        }}
      />
    </Box>
  );
}
