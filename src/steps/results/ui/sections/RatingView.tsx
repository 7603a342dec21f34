'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { type RatingAnalysis, ratingHeadlineP } from '@/core/statistics/rating/analyze';
import { ALPHA, pText } from '@/core/statistics/words';
import { token } from '@/ui/tokens';
import { intervalCell, Method, pCell, signed } from './cells';
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
  return (
    <Table size="small" aria-label="Differences" sx={{ maxWidth: 860 }}>
      <TableHead>
        <TableRow>
          <TableCell>Pair</TableCell>
          <TableCell align="right">Listeners</TableCell>
          <TableCell align="right">Difference</TableCell>
          <TableCell align="right">p, Holm</TableCell>
          <TableCell align="right">Signed rank, Holm</TableCell>
          <TableCell>In words</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((row) => {
          const shown = claimed && row.pModelHolm !== null && row.pModelHolm < ALPHA;
          const higher = (row.difference ?? 0) > 0 ? row.a : row.b;
          return (
            <TableRow key={`${row.a} ${row.b}`}>
              <TableCell>
                {row.a} <span style={{ color: token('soft') }}>against</span> {row.b}
              </TableCell>
              <TableCell align="right">{row.n}</TableCell>
              <TableCell align="right">
                {row.difference === null ? '–' : signed(row.difference)}
              </TableCell>
              <TableCell align="right">{pCell(row.pModelHolm)}</TableCell>
              <TableCell align="right">{pCell(row.pHolm)}</TableCell>
              <TableCell sx={{ color: token(shown ? 'ink' : 'soft') }}>
                {shown ? `${higher} is placed higher` : 'no difference shown'}
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}

function Repeatability({ rows }: { rows: RatingAnalysis['repeatability'] }) {
  return (
    <Table size="small" aria-label="Repeatability" sx={{ maxWidth: 560 }}>
      <TableHead>
        <TableRow>
          <TableCell>Listener</TableCell>
          <TableCell align="right">Scatter of repeats, points</TableCell>
          <TableCell align="right">Repeats</TableCell>
          <TableCell align="right">First with second</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map(({ listener, sdOfReplicates, df, correlation }) => (
          <TableRow key={listener}>
            <TableCell>{listener}</TableCell>
            <TableCell align="right">{sdOfReplicates.toFixed(1)}</TableCell>
            <TableCell align="right">{df}</TableCell>
            <TableCell align="right">{correlation?.toFixed(2) ?? '–'}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** Places on a line: means, and behind them pairs, agreement and repeatability. */
export function RatingView({ results: { rating }, ends, claimed }: ViewProps) {
  if (!rating) return null;
  const rows = [...rating.chains].sort((x, y) => y.adjustedMean - x.adjustedMean);
  return (
    <>
      <Table size="small" aria-label="Places" sx={{ maxWidth: 860 }}>
        <TableHead>
          <TableRow>
            <TableCell>Chain</TableCell>
            <TableCell align="right">Ratings</TableCell>
            <TableCell align="right">Mean</TableCell>
            <TableCell align="right">95 %</TableCell>
            <TableCell sx={{ width: '40%' }}>{ends && `${ends[0]} … ${ends[1]}`}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(({ chain, n, adjustedMean, ci95 }) => (
            <TableRow key={chain}>
              <TableCell>{chain}</TableCell>
              <TableCell align="right">{n}</TableCell>
              <TableCell align="right">{adjustedMean.toFixed(0)}</TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                {intervalCell(ci95 && [clamp(ci95[0]), clamp(ci95[1])])}
              </TableCell>
              <TableCell>
                <Place mean={adjustedMean} ci95={ci95} />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
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
