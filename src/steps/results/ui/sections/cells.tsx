import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { token } from '@/ui/tokens';

/** A p-value in a column. */
export const pCell = (p: number | null) =>
  p === null ? '–' : p < 0.001 ? '< 0.001' : p.toFixed(3);
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
