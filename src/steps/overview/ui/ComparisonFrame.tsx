'use client';

import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import type { ReactNode } from 'react';
import type { Overview, StepId } from '@/steps/overview/steps';
import { countWord } from '@/ui/format';
import { LiveRefresh } from '@/ui/LiveRefresh';
import { Masthead } from '@/ui/Masthead';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, Sheet } from '@/ui/Sheet';
import { FACES, token } from '@/ui/tokens';

function StepTabs({ overview, step }: { overview: Overview; step: StepId }) {
  return (
    <Box
      component="nav"
      aria-label="Steps"
      sx={{
        display: 'flex',
        displayPrint: 'none',
        gap: '3px',
        ml: { xs: 1, md: '252px' },
        overflowX: 'auto',
      }}
    >
      {overview.steps.map(({ id, title, word, locked, settled }) => {
        const here = id === step;
        return (
          <Box
            key={id}
            component={NextLink}
            href={`/comparisons/${overview.comparison.id}/${id}`}
            aria-current={here ? 'page' : undefined}
            sx={{
              flexShrink: 0,
              px: 2,
              pt: here ? 1.1 : 0.9,
              pb: 0.75,
              mt: here ? 0 : '3px',
              mb: here ? '-1px' : 0,
              zIndex: here ? 1 : 0,
              border: `1px solid ${token('rule')}`,
              borderBottomColor: token(here ? 'sheet' : 'rule'),
              borderRadius: '4px 4px 0 0',
              bgcolor: token(here ? 'sheet' : 'tab'),
              color: token(here ? 'ink' : 'soft'),
              textDecoration: 'none',
              '&:focus-visible': { outline: `2px solid ${token('pen')}`, outlineOffset: -3 },
            }}
          >
            <Box sx={{ fontSize: '0.84rem', fontWeight: here ? 600 : 400 }}>{title}</Box>
            <Box
              sx={{
                fontFamily: FACES.mono,
                fontSize: '0.7rem',
                color: token(settled && !locked ? 'green' : 'soft'),
              }}
            >
              {word}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

/** The book of one comparison, open at a step. */
export function ComparisonFrame({
  name,
  seen,
  overview,
  step,
  remarks,
  children,
}: {
  name: string;
  seen: string;
  overview: Overview;
  step: StepId;
  /** The step's own notes for the margin. */
  remarks?: ReactNode;
  children: ReactNode;
}) {
  const { comparison, next, work, simulatedTakes } = overview;
  return (
    <>
      <LiveRefresh comparisonId={comparison.id} seen={seen} />
      <Masthead name={name} />
      <StepTabs overview={overview} step={step} />
      <Sheet
        margin={
          <>
            <MarginNote title={comparison.title}>
              <Box sx={{ color: token('soft') }}>
                {comparison.sourceName}, {comparison.passageName}
              </Box>
            </MarginNote>
            <MarginNote title="Next">
              {next.step === step ? (
                next.text
              ) : (
                <Link component={NextLink} href={`/comparisons/${comparison.id}/${next.step}`}>
                  {next.text}
                </Link>
              )}
            </MarginNote>
            {work.length > 0 && (
              <MarginNote title="Under way">
                {work.map(({ id, label, state, progress, remark }) => (
                  <Box key={id} sx={{ mb: 1 }}>
                    {label}
                    <LinearProgress
                      variant="determinate"
                      value={100 * progress}
                      aria-label={label}
                      sx={{ my: 0.5 }}
                    />
                    <Box sx={{ color: token('soft') }}>
                      {remark ??
                        (state === 'waiting' ? 'waiting' : `${Math.round(100 * progress)} %`)}
                    </Box>
                  </Box>
                ))}
              </MarginNote>
            )}
            {remarks}
            {!comparison.simulated && simulatedTakes > 0 && (
              <MarginNote title="Simulated">
                {countWord(simulatedTakes, 'take comes', 'takes come')} from the simulated bench.
                What is heard of them says nothing about real gear.
              </MarginNote>
            )}
            {comparison.simulated && (
              <MarginNote title="Simulated">
                Gear, people, takes and the first panel of this comparison are made up.
              </MarginNote>
            )}
          </>
        }
      >
        {children}
      </Sheet>
    </>
  );
}
