'use client';

import Typography from '@mui/material/Typography';
import { percent, pText } from '@/core/statistics/words';
import type { ViewProps } from './view';

export function RecallView({ results: { recall } }: ViewProps) {
  if (!recall) return null;
  return (
    <Typography sx={{ maxWidth: '76ch' }}>
      {recall.correct} of {recall.n} right ({percent(recall.ci95[0])} … {percent(recall.ci95[1])},
      95 %); guessing gives one in two. {pText(recall.pOneSided)}, exact and one-sided.
    </Typography>
  );
}
