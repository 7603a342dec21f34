'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { WordCounts } from '@/core/statistics/attributes';
import type { Audibility } from '@/core/statistics/audibility';
import { pText } from '@/core/statistics/pair/findings';
import type { FromMemory } from '@/core/statistics/part';
import type { RatingSummary } from '@/core/statistics/rating-summary';
import { token } from '@/ui/tokens';

const ALPHA = 0.05;
/** A p-value in a column. */
const pCell = (p: number | null) => (p === null ? '–' : p < 0.001 ? '< 0.001' : p.toFixed(3));
const percent = (share: number) => `${Math.round(100 * share)} %`;

export function AudibilityTable({ rows }: { rows: readonly Audibility[] }) {
  return (
    <Table size="small" aria-label="Told apart" sx={{ maxWidth: 860 }}>
      <TableHead>
        <TableRow>
          <TableCell>Pair</TableCell>
          <TableCell align="right">Right</TableCell>
          <TableCell align="right">By guessing</TableCell>
          <TableCell align="right">Share, 95 %</TableCell>
          <TableCell align="right">d′</TableCell>
          <TableCell align="right">p, Holm</TableCell>
          <TableCell>In words</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((row) => (
          <TableRow key={`${row.a} ${row.b}`}>
            <TableCell>
              {row.a} <span style={{ color: token('soft') }}>and</span> {row.b}
            </TableCell>
            <TableCell align="right">
              {row.correct} of {row.n}
            </TableCell>
            <TableCell align="right">{(row.guess * row.n).toFixed(1)}</TableCell>
            <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
              {percent(row.ci95[0])} … {percent(row.ci95[1])}
            </TableCell>
            <TableCell align="right">{row.dPrime.toFixed(2)}</TableCell>
            <TableCell align="right">{pCell(row.pHolm)}</TableCell>
            <TableCell sx={{ color: token(row.pHolm < ALPHA ? 'ink' : 'soft') }}>
              {row.pHolm < ALPHA ? 'told apart' : 'not shown'}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** A place on the line as it was shown to listeners, with its interval. */
function Place({ mean, ci95 }: { mean: number; ci95: readonly [number, number] | null }) {
  const clamp = (x: number) => Math.min(100, Math.max(0, x));
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

export function RatingTable({ ratings, against }: { ratings: RatingSummary; against: boolean }) {
  const rows = [...ratings.chains].sort((x, y) => y.mean - x.mean);
  return (
    <>
      <Table size="small" aria-label="Places" sx={{ maxWidth: 860 }}>
        <TableHead>
          <TableRow>
            <TableCell>Chain</TableCell>
            <TableCell align="right">Ratings</TableCell>
            <TableCell align="right">Mean</TableCell>
            <TableCell align="right">95 %</TableCell>
            <TableCell sx={{ width: '40%' }}>
              {against ? 'worse than the reference … better' : 'worse … better for this part'}
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(({ chain, n, mean, ci95 }) => (
            <TableRow key={chain}>
              <TableCell>{chain}</TableCell>
              <TableCell align="right">{n}</TableCell>
              <TableCell align="right">{mean.toFixed(0)}</TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                {ci95 ? `${ci95[0].toFixed(0)} … ${ci95[1].toFixed(0)}` : '–'}
              </TableCell>
              <TableCell>
                <Place mean={mean} ci95={ci95} />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 1, maxWidth: '76ch' }}>
        Means over listeners’ own means. {ratings.listeners} listeners rated every chain; that none
        differs: {ratings.pF === null ? 'cannot be tested' : pText(ratings.pF)} (Friedman, F form)
        {ratings.kendallW === null ? '' : `, agreement W ${ratings.kendallW.toFixed(2)}`}.
      </Typography>
    </>
  );
}

export function MemoryNote({ memory }: { memory: FromMemory }) {
  return (
    <Typography sx={{ maxWidth: '76ch' }}>
      {memory.correct} of {memory.n} right ({percent(memory.ci95[0])} … {percent(memory.ci95[1])},
      95 %); guessing gives one in two. {pText(memory.pOneSided)}, exact and one-sided.
    </Typography>
  );
}

export function WordTable({ words }: { words: readonly WordCounts[] }) {
  const chains = Object.keys(words[0].counts);
  const rows = [...words].sort((x, y) => (x.p ?? 1) - (y.p ?? 1));
  return (
    <>
      <Box sx={{ overflowX: 'auto' }}>
        <Table size="small" aria-label="Words">
          <TableHead>
            <TableRow>
              <TableCell>Word</TableCell>
              {chains.map((chain) => (
                <TableCell key={chain} align="right">
                  {chain}
                </TableCell>
              ))}
              <TableCell align="right">p, Holm</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map(({ word, counts, pHolm }) => (
              <TableRow key={word}>
                <TableCell sx={{ fontWeight: pHolm !== null && pHolm < ALPHA ? 600 : 400 }}>
                  {word}
                </TableCell>
                {chains.map((chain) => (
                  <TableCell key={chain} align="right">
                    {counts[chain]}
                  </TableCell>
                ))}
                <TableCell align="right">{pCell(pHolm)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', mt: 1, maxWidth: '76ch' }}>
        How often each word was ticked for each chain. Cochran’s test per word over the listeners
        who described every chain, corrected for {words.length} words (Holm).
      </Typography>
    </>
  );
}
