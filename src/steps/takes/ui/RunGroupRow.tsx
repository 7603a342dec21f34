'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import { type ReactNode, useEffect, useRef } from 'react';
import { programmeLabel, programmeStep } from '@/core/checks/programme';
import { isDone } from '@/steps/takes/run-groups';
import type { RunLine } from '@/steps/takes/run-sheet-store';
import { countWord } from '@/ui/format';
import { token } from '@/ui/tokens';

/** One time at the stand that all chains hear: ticked off together, its chains' gains inside. */
export function RunGroupRow({
  lines,
  severalSources,
  isNext,
  onDone,
  children,
}: {
  lines: RunLine[];
  severalSources: boolean;
  isNext: boolean;
  onDone: (done: boolean) => void;
  /** A row of each chain. */
  children: ReactNode;
}) {
  const { programme, detail, takeNumber, sourceName } = lines[0]!;
  const step = programmeStep(programme);
  const what =
    programme === 'performance' ? `performance ${takeNumber}` : programmeLabel(programme, detail);
  const fold = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    // On paper nothing can be opened.
    const unfold = () => {
      if (fold.current) fold.current.open = true;
    };
    window.addEventListener('beforeprint', unfold);
    return () => window.removeEventListener('beforeprint', unfold);
  }, []);
  const some = lines.filter(({ done }) => done).length;
  const logged = lines.filter(({ gainDb, knob }) => gainDb !== null || knob !== '').length;
  return (
    <Box
      component="li"
      sx={{
        borderBottom: `1px solid ${token('hair')}`,
        bgcolor: isNext ? token('wash') : undefined,
        '@media print': { bgcolor: 'transparent' },
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.25, alignItems: 'center', py: 1, px: { xs: 0, md: 1 } }}>
        <Checkbox
          checked={isDone(lines)}
          indeterminate={some > 0 && some < lines.length}
          slotProps={{ input: { 'aria-label': `Done: ${what}, all chains` } }}
          onChange={(_, done) => onDone(done)}
          sx={{ p: { xs: 1.5, md: 1 }, '& svg': { fontSize: { xs: 32, md: 24 } } }}
        />
        <Box>
          <Box
            sx={{ fontWeight: isNext ? 600 : 400, fontSize: { xs: '1.05rem', md: '0.9375rem' } }}
          >
            {what} · {countWord(lines.length, 'chain').toLowerCase()} at once
            {severalSources && ` · ${sourceName}`}
          </Box>
          <Box sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
            {step.how}
            {step.caution && (
              <Box component="span" sx={{ color: token('ochre') }}>
                {' '}
                {step.caution}
              </Box>
            )}
          </Box>
        </Box>
      </Box>
      <Box
        component="details"
        ref={fold}
        open={isNext && takeNumber === 1}
        sx={{ pl: { xs: 1, md: 7 }, pr: { xs: 1, md: 0 }, pb: 1, breakInside: 'auto' }}
      >
        <Box
          component="summary"
          sx={{ cursor: 'pointer', color: token('pen'), fontSize: '0.875rem', py: 0.5 }}
        >
          Settings and gain of each chain, {logged} of {lines.length} logged
        </Box>
        <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {children}
        </Box>
      </Box>
    </Box>
  );
}
