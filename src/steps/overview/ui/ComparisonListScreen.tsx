'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import type { ComparisonLine } from '@/steps/overview/service';
import { countWord } from '@/ui/format';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { token } from '@/ui/tokens';

export function ComparisonListScreen({ name, lines }: { name: string; lines: ComparisonLine[] }) {
  const start = (
    <Button component={NextLink} href="/comparisons/new" variant="contained">
      Start a comparison
    </Button>
  );
  return (
    <StudioFrame
      name={name}
      margin={
        <>
          <MarginNote title="What this is">
            A bank for your panel’s minutes: plan a comparison of chains, match its clips, let
            people listen blind, and read what their answers can carry.
          </MarginNote>
          <MarginNote title="Next">
            {lines.length === 0 ? 'Start your first comparison.' : 'Open one, or start another.'}
          </MarginNote>
        </>
      }
    >
      <PageHeading
        finding={
          lines.length === 0 ? 'No question asked yet' : countWord(lines.length, 'comparison')
        }
        action={lines.length > 0 ? start : undefined}
      />
      {lines.length === 0 ? (
        <Box sx={{ maxWidth: '60ch' }}>
          <Typography gutterBottom>
            A comparison is one concrete question: for this voice, this passage and this money,
            which chain? You bring one take per chain as a WAV file; Zeitbank makes them equally
            loud and asks your panel without telling it what it hears.
          </Typography>
          <Typography sx={{ color: token('soft'), mb: 2.5 }}>
            To look around first, stop this and run <code>./zeitbank demo</code>: it brings a
            made-up studio with everything in it.
          </Typography>
          {start}
        </Box>
      ) : (
        <Table aria-label="Comparisons">
          <TableHead>
            <TableRow>
              <TableCell>Question</TableCell>
              <TableCell align="right">Chains</TableCell>
              <TableCell align="right">Listeners</TableCell>
              <TableCell align="right">Answers</TableCell>
              <TableCell>Next</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {lines.map(({ comparison, next, chains, listeners, answers }) => (
              <TableRow key={comparison.id}>
                <TableCell>
                  <Link
                    component={NextLink}
                    href={`/comparisons/${comparison.id}`}
                    sx={{ fontWeight: 600 }}
                  >
                    {comparison.title}
                  </Link>
                  <Box sx={{ color: token('soft') }}>
                    {comparison.sourceName}, {comparison.passageName}
                    {comparison.simulated && ' · simulated'}
                  </Box>
                </TableCell>
                <TableCell align="right">{chains}</TableCell>
                <TableCell align="right">{listeners}</TableCell>
                <TableCell align="right">{answers}</TableCell>
                <TableCell>{next}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </StudioFrame>
  );
}
