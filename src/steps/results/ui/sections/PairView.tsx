'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import type { PairAnalysis } from '@/core/statistics/pair/analyze';
import type { PairRow } from '@/core/statistics/pair/tests';
import { pText } from '@/core/statistics/words';
import { ALPHA } from '@/core/statistics/words';
import { DataTable } from '@/ui/DataTable';
import { BeingDrawn } from '@/ui/BeingDrawn';
import { token } from '@/ui/tokens';
import { marksOf } from '../marks';
import { Method, pColumn, pairColumn } from './cells';
import type { ViewProps } from './view';

const StrengthChart = dynamic(() => import('./StrengthChart'), {
  ssr: false,
  loading: () => <BeingDrawn height={320} />,
});

/** The same pair from the other side. */
const turned = (row: PairRow): PairRow => ({
  ...row,
  a: row.b,
  b: row.a,
  aWins: row.bWins,
  bWins: row.aWins,
  listenersA: row.listenersB,
  listenersB: row.listenersA,
});

function PairTable({ analysis, claimed }: { analysis: PairAnalysis; claimed: boolean }) {
  const rank = (chain: string) =>
    analysis.overall.find((row) => row.chain === chain)?.logStrength ?? 0;
  // The stronger of two first, and the strongest on top.
  const rows = analysis.pairs
    .map((row) => (rank(row.a) >= rank(row.b) ? row : turned(row)))
    .sort((x, y) => rank(y.a) - rank(x.a) || rank(y.b) - rank(x.b));
  const told = ({ pListenerHolm }: PairRow) => claimed && pListenerHolm < ALPHA;
  return (
    <DataTable
      label="Pairs"
      rows={rows}
      keyOf={({ a, b }) => `${a} ${b}`}
      columns={[
        pairColumn('against'),
        {
          label: 'Choices',
          cell: ({ aWins, bWins }) => `${aWins} : ${bWins}`,
          right: true,
          sx: { whiteSpace: 'nowrap' },
        },
        { label: 'Level', cell: ({ ties }) => ties, right: true },
        {
          label: 'Listeners for each',
          cell: ({ listenersA, listenersB }) => `${listenersA} : ${listenersB}`,
          right: true,
          sx: { whiteSpace: 'nowrap' },
        },
        pColumn('pListenerHolm'),
        {
          label: 'In words',
          cell: (row) =>
            told(row)
              ? `${row.aWins > row.bWins ? row.a : row.b} is preferred`
              : 'no preference shown',
          sxOf: (row) => ({ color: token(told(row) ? 'ink' : 'soft') }),
        },
      ]}
    />
  );
}

/** Pairs at length: strengths, remarks, limits, head to head. */
function PairResult({
  analysis,
  chains,
  findings,
  claimed,
}: ViewProps & { analysis: PairAnalysis }) {
  const rows = useMemo(
    () =>
      analysis.overall
        .filter(({ logStrength }) => logStrength !== null)
        .sort((x, y) => (y.logStrength ?? 0) - (x.logStrength ?? 0)),
    [analysis],
  );
  const markOf = useMemo(() => marksOf(chains), [chains]);
  return (
    <>
      {rows.length > 0 && (
        <Box component="figure" sx={{ m: 0, maxWidth: 860 }}>
          <StrengthChart rows={rows} markOf={markOf} />
        </Box>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { md: '1fr 1fr' }, gap: 4, mt: 2 }}>
        <Box>
          <Typography variant="h2">Also seen</Typography>
          {findings.remarks.map((remark) => (
            <Typography key={remark} sx={{ mt: 0.75 }}>
              {remark}
            </Typography>
          ))}
        </Box>
        <Box>
          <Typography variant="h2">What this does not show</Typography>
          {findings.limits.map((limit) => (
            <Typography key={limit} sx={{ mt: 0.75 }}>
              {limit}
            </Typography>
          ))}
        </Box>
      </Box>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Head to head
      </Typography>
      <PairTable analysis={analysis} claimed={claimed} />
      <Method>
        Exact sign test over listeners for each pair, corrected for {analysis.pairs.length} pairs
        (Holm).
        {analysis.panelTest &&
          ` That no chain differs at all: ${pText(analysis.panelTest.p)}, with the listener as the unit.`}
      </Method>
    </>
  );
}

export function PairView(props: ViewProps) {
  const { pair } = props.results;
  return pair && <PairResult {...props} analysis={pair} />;
}
