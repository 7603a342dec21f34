'use client';

import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { ALPHA } from '@/core/statistics/words';
import { FEWEST_LISTENERS } from '@/core/statistics/against';
import { token } from '@/ui/tokens';
import { Method, pCell, signed } from './cells';
import type { ViewProps } from './view';

/** Candidates against the reference, as the same listeners placed it when it was hidden. */
export function AgainstView({ results: { against }, claimed }: ViewProps) {
  if (against.length === 0) return null;
  const rows = [...against].sort((x, y) => y.difference - x.difference);
  return (
    <>
      <Table size="small" aria-label="Against the reference" sx={{ maxWidth: 860, mb: 1 }}>
        <TableHead>
          <TableRow>
            <TableCell>Candidate</TableCell>
            <TableCell align="right">Listeners</TableCell>
            <TableCell align="right">Points from the reference</TableCell>
            <TableCell align="right">95 %</TableCell>
            <TableCell align="right">p, Holm</TableCell>
            <TableCell>In words</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(({ chain, listeners, difference, ci95, pHolm }) => {
            const shown = claimed && pHolm !== null && pHolm < ALPHA;
            return (
              <TableRow key={chain}>
                <TableCell>{chain}</TableCell>
                <TableCell align="right">{listeners}</TableCell>
                <TableCell align="right">{signed(difference)}</TableCell>
                <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                  {ci95 ? `${signed(ci95[0])} … ${signed(ci95[1])}` : '–'}
                </TableCell>
                <TableCell align="right">{pCell(pHolm)}</TableCell>
                <TableCell sx={{ color: token(shown ? 'ink' : 'soft') }}>
                  {!shown ? 'not shown' : difference > 0 ? 'above it' : 'below it'}
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
      <Method>
        Each listener’s place for the candidate less their own place for the hidden reference (50,
        “as good as it”, where they never heard it hidden). t test over listeners from{' '}
        {FEWEST_LISTENERS} on, corrected for {against.length} candidates (Holm).
      </Method>
    </>
  );
}
