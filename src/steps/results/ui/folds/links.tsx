import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import type { Across } from '@/steps/results/across';
import { list, percent, pText } from '@/core/statistics/words';
import { DataTable } from '@/ui/DataTable';
import { Method, pCell } from '../sections/cells';
import type { Fold, FoldProps } from './fold';
import { BeingDrawn } from '@/ui/BeingDrawn';

const EffectsChart = dynamic(() => import('../EffectsChart'), {
  ssr: false,
  loading: () => <BeingDrawn height={220} />,
});

const MOSTLY = 2 / 3;
const WORDS = {
  microphone: 'Microphone',
  preamp: 'Preamp',
  'microphone:preamp': 'How they go together',
} as const;

/** What carried most of it, where shares can be told. */
function mostWords({ links }: Across): string | null {
  const { factors } = links?.read[links.task] ?? {};
  const most = factors
    ?.filter(({ share }) => share !== null)
    .sort((x, y) => y.share! - x.share!)[0];
  if (!most?.share || most.share < MOSTLY) return null;
  return most.factor === 'microphone:preamp' ? null : `mostly the ${most.factor}`;
}

function Links({ across: { links } }: FoldProps) {
  const read = links?.read[links.task];
  const effects = useMemo(() => read?.effects ?? [], [read]);
  if (!links || !read) return null;
  const misfit = links.task === 'pair' ? links.read.pair?.lackOfFit : null;
  return (
    <>
      <Box component="figure" sx={{ m: 0, maxWidth: 860 }}>
        <EffectsChart effects={effects} unit={links.task === 'pair' ? 'log odds' : 'points'} />
      </Box>
      <DataTable
        label="Microphone and preamp"
        sx={{ maxWidth: 640, mt: 1 }}
        rows={read.factors}
        keyOf={({ factor }) => factor}
        columns={[
          { label: 'Link', cell: ({ factor }) => WORDS[factor] },
          {
            label: 'Share of what chains differ by',
            cell: ({ share }) => (share === null ? '–' : percent(share)),
            right: true,
          },
          { label: 'F', cell: ({ F }) => (F === null ? '–' : F.toFixed(1)), right: true },
          { label: 'p', cell: ({ p }) => pCell(p), right: true },
        ]}
      />
      {links.missing.length > 0 && (
        <Typography sx={{ mt: 1, maxWidth: '76ch' }}>
          Nobody heard {list(links.missing)}: how a microphone and a preamp go together cannot be
          told from this grid.
        </Typography>
      )}
      <Method>
        Each microphone and preamp adjusted for the other, against the middle of its kind, with 95 %
        intervals over listeners. Shares are of the variance between chains, less what chance adds
        (Hays 1963).
        {misfit?.p != null &&
          ` That they work otherwise together than each alone: ${pText(misfit.p)}.`}{' '}
        What a chain is made of is taken from Chains as it stood when the answers were read.
      </Method>
    </>
  );
}

export const links: Fold = {
  id: 'links',
  title({ across }) {
    if (!across.links) return null;
    const most = mostWords(across);
    return `Microphone and preamp${most ? `: ${most}` : ''}`;
  },
  View: Links,
};
