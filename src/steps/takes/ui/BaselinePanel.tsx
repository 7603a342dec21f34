'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { PairBaseline } from '@/core/checks/baseline';
import type { Source } from '@/steps/comparisons/schema';
import { DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { countWord } from '@/ui/format';
import { token } from '@/ui/tokens';

const COLOURS = { something: 'green', little: 'ochre', nothing: 'red', unknown: 'soft' } as const;

function headingOf(pairs: PairBaseline[]): string {
  const nothing = pairs.filter(({ proves }) => proves === 'nothing').length;
  if (nothing > 0) {
    return `${countWord(nothing, 'pair proves', 'pairs prove')} nothing: its takes differ as much as its chains`;
  }
  const little = pairs.filter(({ proves }) => proves === 'little').length;
  return little > 0
    ? `${countWord(little, 'pair')} to believe only with more takes`
    : 'Chains differ clearly more than takes of one chain do';
}

/** The difference between chains, set against the difference between takes of one chain. */
export function BaselinePanel({ sets }: { sets: { source: Source; baseline: PairBaseline[] }[] }) {
  const judged = sets
    .map(({ source, baseline }) => ({
      source,
      pairs: baseline.filter(({ proves }) => proves !== 'unknown'),
    }))
    .filter(({ pairs }) => pairs.length > 0);
  return judged.map(({ source, pairs }) => (
    <Box key={source.id} sx={{ mt: 4 }}>
      <Typography variant="h2">
        {judged.length > 1 ? `${source.name}: ` : ''}
        {headingOf(pairs)}
      </Typography>
      <DataTable
        label={`Takes against chains, ${source.name}`}
        size="medium"
        sx={{ mt: 1 }}
        rows={pairs}
        keyOf={({ first, second }) => `${first} ${second}`}
        columns={[
          { label: 'Pair', cell: ({ first, second }) => `${first} and ${second}` },
          {
            label: 'Between chains, dB',
            cell: ({ between }) => between.spectrumDb.toFixed(1),
            by: ({ between }) => between.spectrumDb,
            mostFirst: true,
            right: true,
          },
          {
            label: 'Between takes, dB',
            cell: ({ within }) => within?.spectrumDb.toFixed(1) ?? '–',
            by: ({ within }) => within?.spectrumDb,
            right: true,
          },
          {
            label: 'Loudness, LU',
            cell: ({ between, within }) =>
              `${between.loudnessLu.toFixed(1)} / ${within?.loudnessLu.toFixed(1) ?? '–'}`,
            right: true,
          },
          {
            label: 'Verdict',
            cell: ({ verdict }) => verdict,
            sxOf: ({ proves }) => ({ color: token(COLOURS[proves]) }),
          },
        ]}
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 1, maxWidth: '86ch' }}>
        Root mean square of the differences of third-octave levels from 80 Hz to 12.5 kHz, level
        taken out. A pair counts where its chains differ at least twice as much as the takes of
        either.
      </Typography>
      <CsvButton
        fileName="takes-against-chains.csv"
        rows={pairs.map(({ first, second, between, within, proves }) => ({
          first,
          second,
          betweenChainsDb: between.spectrumDb,
          betweenTakesDb: within?.spectrumDb ?? null,
          betweenChainsLu: between.loudnessLu,
          betweenTakesLu: within?.loudnessLu ?? null,
          proves,
        }))}
      />
    </Box>
  ));
}
