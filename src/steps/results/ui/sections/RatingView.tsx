'use client';

import Box from '@mui/material/Box';
import { type RatingAnalysis, ratingHeadlineP } from '@/core/statistics/rating/analyze';
import { ALPHA, pText } from '@/core/statistics/words';
import { DataTable } from '@/ui/DataTable';
import { token } from '@/ui/tokens';
import { Method, intervalCell, pColumn, pairColumn, signed } from './cells';
import type { ViewProps } from './view';

/** The scale has ends, an interval of t has none. */
const clamp = (x: number) => Math.min(100, Math.max(0, x));

/** A place on the line as it was shown to listeners, with its interval. */
function Place({ mean, ci95 }: { mean: number; ci95: readonly [number, number] | null }) {
  return (
    <Box
      aria-hidden
      sx={{ position: 'relative', height: 16, borderBottom: `1px solid ${token('rule')}` }}
    >
      {ci95 && (
        <Box
          sx={{
            position: 'absolute',
            bottom: -2,
            height: 3,
            left: `${clamp(ci95[0])}%`,
            width: `${clamp(ci95[1]) - clamp(ci95[0])}%`,
            bgcolor: token('soft'),
          }}
        />
      )}
      <Box
        sx={{
          position: 'absolute',
          bottom: -5,
          left: `calc(${clamp(mean)}% - 4px)`,
          width: 8,
          height: 8,
          borderRadius: '50%',
          bgcolor: token('ink'),
        }}
      />
    </Box>
  );
}

function howTested(rating: RatingAnalysis): string {
  const p = ratingHeadlineP(rating);
  if (p === null) return 'That none differs cannot be tested.';
  const test =
    rating.headlineTest === 'friedman'
      ? `Friedman’s test in its F form over ${rating.friedman?.listeners ?? 0} listeners who rated every chain`
      : 'mixed model, as fewer than half of the listeners rated every chain';
  const agreement = rating.friedman
    ? `, agreement W ${rating.friedman.kendallW.toFixed(2)} (0 none, 1 complete)`
    : '';
  return `That none differs: ${pText(p)} (${test})${agreement}.`;
}

/** Every two chains; shown to differ only where the headline holds, too. */
function Pairs({ rating, claimed }: { rating: RatingAnalysis; claimed: boolean }) {
  const height = (chain: string) =>
    rating.chains.find((row) => row.chain === chain)?.adjustedMean ?? 0;
  // The higher of two first, and the highest on top.
  const rows = rating.posthoc
    .map((row) =>
      height(row.a) >= height(row.b)
        ? row
        : { ...row, a: row.b, b: row.a, difference: row.difference && -row.difference },
    )
    .sort((x, y) => height(y.a) - height(x.a) || height(y.b) - height(x.b));
  const shown = ({ pModelHolm }: { pModelHolm: number | null }) =>
    claimed && pModelHolm !== null && pModelHolm < ALPHA;
  return (
    <DataTable
      label="Differences"
      sx={{ maxWidth: 860 }}
      rows={rows}
      keyOf={({ a, b }) => `${a} ${b}`}
      columns={[
        pairColumn('against'),
        { label: 'Listeners', cell: ({ n }) => n, right: true },
        {
          label: 'Difference',
          cell: ({ difference }) => (difference === null ? '–' : signed(difference)),
          by: ({ difference }) => difference,
          mostFirst: true,
          right: true,
        },
        pColumn('pModelHolm'),
        pColumn('pHolm', 'Signed rank, Holm'),
        {
          label: 'In words',
          cell: (row) =>
            shown(row)
              ? `${(row.difference ?? 0) > 0 ? row.a : row.b} is placed higher`
              : 'no difference shown',
          sxOf: (row) => ({ color: token(shown(row) ? 'ink' : 'soft') }),
        },
      ]}
    />
  );
}

function Repeatability({ rows }: { rows: RatingAnalysis['repeatability'] }) {
  return (
    <DataTable
      label="Repeatability"
      sx={{ maxWidth: 560 }}
      rows={rows}
      keyOf={({ listener }) => listener}
      columns={[
        { label: 'Listener', cell: ({ listener }) => listener, by: ({ listener }) => listener },
        {
          label: 'Scatter of repeats, points',
          cell: ({ sdOfReplicates }) => sdOfReplicates.toFixed(1),
          by: ({ sdOfReplicates }) => sdOfReplicates,
          right: true,
        },
        { label: 'Repeats', cell: ({ df }) => df, right: true },
        {
          label: 'First with second',
          cell: ({ correlation }) => correlation?.toFixed(2) ?? '–',
          by: ({ correlation }) => correlation,
          right: true,
        },
      ]}
    />
  );
}

/** Places on a line: means, and behind them pairs, agreement and repeatability. */
export function RatingView({ results: { rating }, ends, claimed }: ViewProps) {
  if (!rating) return null;
  const rows = [...rating.chains].sort((x, y) => y.adjustedMean - x.adjustedMean);
  return (
    <>
      <DataTable
        label="Places"
        sx={{ maxWidth: 860 }}
        rows={rows}
        keyOf={({ chain }) => chain}
        columns={[
          { label: 'Chain', cell: ({ chain }) => chain, by: ({ chain }) => chain },
          { label: 'Ratings', cell: ({ n }) => n, right: true },
          {
            label: 'Mean',
            cell: ({ adjustedMean }) => adjustedMean.toFixed(0),
            by: ({ adjustedMean }) => adjustedMean,
            mostFirst: true,
            right: true,
          },
          {
            label: '95 %',
            cell: ({ ci95 }) => intervalCell(ci95 && [clamp(ci95[0]), clamp(ci95[1])]),
            right: true,
            sx: { whiteSpace: 'nowrap' },
          },
          {
            label: ends ? `${ends[0]} … ${ends[1]}` : '',
            id: 'place',
            headSx: { width: '40%' },
            cell: ({ adjustedMean, ci95 }) => <Place mean={adjustedMean} ci95={ci95} />,
          },
        ]}
      />
      <Method>
        Means over listeners’ own means, from the mixed model where it can be made.{' '}
        {howTested(rating)}
      </Method>
      <Box component="details" sx={{ mt: 1.5 }}>
        <summary>Every two chains, and how listeners agree</summary>
        <Pairs rating={rating} claimed={claimed} />
        <Method>
          Difference: mean over the listeners who rated both, in points. p: t test of the mixed
          model, beside it the exact signed rank test; corrected for {rating.posthoc.length} pairs
          (Holm). Said to differ only where the test of all chains is under 5 %, too.
          {rating.icc?.icc2_1 != null &&
            ` Agreement of single listeners ICC(2,1) ${rating.icc.icc2_1.toFixed(2)}, of their mean ${rating.icc.icc2_k?.toFixed(2) ?? '–'}.`}
        </Method>
        {rating.repeatability.length > 0 && <Repeatability rows={rating.repeatability} />}
      </Box>
    </>
  );
}
