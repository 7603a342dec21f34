'use client';

import { ALPHA, percent } from '@/core/statistics/words';
import { DataTable } from '@/ui/DataTable';
import { token } from '@/ui/tokens';
import { pColumn, pairColumn } from './cells';
import type { ViewProps } from './view';

export function AudibilityView({ results: { audibility: rows }, claimed }: ViewProps) {
  if (rows.length === 0) return null;
  const shown = ({ pHolm }: { pHolm: number }) => claimed && pHolm < ALPHA;
  return (
    <DataTable
      label="Told apart"
      sx={{ maxWidth: 860 }}
      rows={rows}
      keyOf={({ a, b }) => `${a} ${b}`}
      columns={[
        pairColumn('and'),
        {
          label: 'Right',
          cell: ({ correct, n }) => `${correct} of ${n}`,
          by: ({ correct, n }) => correct / n,
          mostFirst: true,
          right: true,
        },
        { label: 'By guessing', cell: ({ guess, n }) => (guess * n).toFixed(1), right: true },
        {
          label: 'Share, 95 %',
          cell: ({ ci95 }) => `${percent(ci95[0])} … ${percent(ci95[1])}`,
          right: true,
          sx: { whiteSpace: 'nowrap' },
        },
        {
          label: 'd′',
          cell: ({ dPrime }) => dPrime.toFixed(2),
          by: ({ dPrime }) => dPrime,
          mostFirst: true,
          right: true,
        },
        pColumn('pHolm'),
        {
          label: 'In words',
          cell: (row) => (shown(row) ? 'told apart' : 'not shown'),
          sxOf: (row) => ({ color: token(shown(row) ? 'ink' : 'soft') }),
        },
      ]}
    />
  );
}
