import Typography from '@mui/material/Typography';
import type { Fold, FoldProps } from './fold';

function Limits({ across, result }: FoldProps) {
  const chains = result.chains.length;
  const open = across.picture.filter(({ claimed }) => !claimed).map(({ place }) => place);
  const more = [
    ...(open.some(Boolean) ? [`Nothing is claimed of ${open.filter(Boolean).join('; ')}.`] : []),
    ...(chains > 2
      ? ['“Not shown worse” is not “as good”: with more answers some of these may fall behind.']
      : []),
  ];
  return [...result.heardAs, ...across.limits, ...more].map((limit) => (
    <Typography key={limit} sx={{ mt: 0.75, maxWidth: '76ch' }}>
      {limit}
    </Typography>
  ));
}

export const limits: Fold = {
  id: 'limits',
  title: () => 'What this does not show',
  View: Limits,
};
