import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { Column } from '@/ui/DataTable';
import { token } from '@/ui/tokens';

/** A p-value in a column. */
export const pCell = (p: number | null) =>
  p === null ? '–' : p < 0.001 ? '< 0.001' : p.toFixed(3);
/** What every test of several is read by. */
export function pColumn<Key extends string>(
  key: Key,
  label = 'p, Holm',
): Column<Record<Key, number | null>> {
  return { label, cell: (row) => pCell(row[key]), by: (row) => row[key], right: true };
}

/** Two chains, and how they stand to each other. */
export function pairColumn<Row extends { a: string; b: string }>(
  joint: 'and' | 'against',
): Column<Row> {
  return {
    label: 'Pair',
    cell: ({ a, b }) => (
      <>
        {a} <span style={{ color: token('soft') }}>{joint}</span> {b}
      </>
    ),
  };
}

/** An interval of points in a column. */
export const intervalCell = (ci95: readonly [number, number] | null) =>
  ci95 ? `${ci95[0].toFixed(0)} … ${ci95[1].toFixed(0)}` : '–';

/** Points with their sign. */
export const signed = (points: number) =>
  `${points > 0 ? '+' : points < 0 ? '−' : ''}${Math.abs(points).toFixed(1)}`;

/** What stands under a table: how its figures were made. */
export function Method({ children }: { children: ReactNode }) {
  return (
    <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 1, maxWidth: '76ch' }}>
      {children}
    </Typography>
  );
}
