'use client';

import { ALPHA } from '@/core/statistics/words';
import { FEWEST_LISTENERS } from '@/core/statistics/against';
import { DataTable } from '@/ui/DataTable';
import { token } from '@/ui/tokens';
import { Method, pColumn, signed } from './cells';
import type { ViewProps } from './view';

/** Candidates against the reference, as the same listeners placed it when it was hidden. */
export function AgainstView({ results: { against }, claimed }: ViewProps) {
  if (against.length === 0) return null;
  const rows = [...against].sort((x, y) => y.difference - x.difference);
  const shown = ({ pHolm }: { pHolm: number | null }) => claimed && pHolm !== null && pHolm < ALPHA;
  return (
    <>
      <DataTable
        label="Against the reference"
        sx={{ maxWidth: 860, mb: 1 }}
        rows={rows}
        keyOf={({ chain }) => chain}
        columns={[
          { label: 'Candidate', cell: ({ chain }) => chain, by: ({ chain }) => chain },
          { label: 'Listeners', cell: ({ listeners }) => listeners, right: true },
          {
            label: 'Points from the reference',
            cell: ({ difference }) => signed(difference),
            by: ({ difference }) => difference,
            mostFirst: true,
            right: true,
          },
          {
            label: '95 %',
            cell: ({ ci95 }) => (ci95 ? `${signed(ci95[0])} … ${signed(ci95[1])}` : '–'),
            right: true,
            sx: { whiteSpace: 'nowrap' },
          },
          pColumn('pHolm'),
          {
            label: 'In words',
            cell: (row) =>
              !shown(row) ? 'not shown' : row.difference > 0 ? 'above it' : 'below it',
            sxOf: (row) => ({ color: token(shown(row) ? 'ink' : 'soft') }),
          },
        ]}
      />
      <Method>
        Each listener’s place for the candidate less their own place for the hidden reference (50,
        “as good as it”, where they never heard it hidden). t test over listeners from{' '}
        {FEWEST_LISTENERS} on, corrected for {against.length} candidates (Holm).
      </Method>
    </>
  );
}
