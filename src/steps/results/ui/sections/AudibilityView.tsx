'use client';

import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { ALPHA, percent } from '@/core/statistics/words';
import { token } from '@/ui/tokens';
import { pCell } from './cells';
import type { ViewProps } from './view';

export function AudibilityView({ results: { audibility: rows }, claimed }: ViewProps) {
  if (rows.length === 0) return null;
  return (
    <Table size="small" aria-label="Told apart" sx={{ maxWidth: 860 }}>
      <TableHead>
        <TableRow>
          <TableCell>Pair</TableCell>
          <TableCell align="right">Right</TableCell>
          <TableCell align="right">By guessing</TableCell>
          <TableCell align="right">Share, 95 %</TableCell>
          <TableCell align="right">d′</TableCell>
          <TableCell align="right">p, Holm</TableCell>
          <TableCell>In words</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((row) => (
          <TableRow key={`${row.a} ${row.b}`}>
            <TableCell>
              {row.a} <span style={{ color: token('soft') }}>and</span> {row.b}
            </TableCell>
            <TableCell align="right">
              {row.correct} of {row.n}
            </TableCell>
            <TableCell align="right">{(row.guess * row.n).toFixed(1)}</TableCell>
            <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
              {percent(row.ci95[0])} … {percent(row.ci95[1])}
            </TableCell>
            <TableCell align="right">{row.dPrime.toFixed(2)}</TableCell>
            <TableCell align="right">{pCell(row.pHolm)}</TableCell>
            <TableCell sx={{ color: token(claimed && row.pHolm < ALPHA ? 'ink' : 'soft') }}>
              {claimed && row.pHolm < ALPHA ? 'told apart' : 'not shown'}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
