import Typography from '@mui/material/Typography';
import { BaselinePanel } from '@/steps/takes/ui/BaselinePanel';
import type { Fold, FoldProps } from './fold';

function Baseline({ result: { baselines } }: FoldProps) {
  return (
    <>
      <Typography sx={{ maxWidth: '76ch', mt: 0.75 }}>
        These were not recorded at once: what was heard of two chains is two performances as well.
      </Typography>
      <BaselinePanel sets={baselines} />
    </>
  );
}

export const baseline: Fold = {
  id: 'baseline',
  title({ result: { baselines } }) {
    const pairs = baselines.flatMap((one) => one.baseline);
    if (pairs.length === 0) return null;
    const clear = pairs.filter(({ proves }) => proves === 'something').length;
    return clear === pairs.length
      ? 'Takes differ less than chains'
      : `Takes against chains: ${clear} of ${pairs.length} pairs are clear`;
  },
  View: Baseline,
};
