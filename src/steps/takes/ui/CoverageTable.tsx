'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { Coverage, CoverageCell, CoverageColumn } from '@/core/checks/coverage';
import { programmeLabel } from '@/core/checks/programme';
import type { Source } from '@/steps/comparisons/schema';
import { countWord } from '@/ui/format';
import { token } from '@/ui/tokens';
import { WideTable } from '@/ui/WideTable';

function Cell({ cell: { takes, wanted } }: { cell: CoverageCell }) {
  if (takes > 0 && takes >= wanted) return <>{takes}</>;
  if (takes > 0) {
    return (
      <Box sx={{ color: token('ochre') }}>
        {takes} of {wanted}
      </Box>
    );
  }
  if (wanted === 0) return <Box sx={{ color: token('soft') }}>not planned</Box>;
  return <Box sx={{ color: token('ochre'), fontWeight: 600 }}>missing</Box>;
}

/** Chains against steps: how many takes there are of each, empty cells seen at once. */
export function CoverageTable({
  coverage: { columns, rows, gaps },
  chains,
  sources,
}: {
  coverage: Coverage;
  chains: { id: string; name: string }[];
  sources: Pick<Source, 'id' | 'name'>[];
}) {
  const several = new Set(columns.map(({ sourceId }) => sourceId)).size > 1;
  const nameOf = (id: string) => chains.find((chain) => chain.id === id)?.name ?? '';
  const labelOf = ({ sourceId, programme, detail }: CoverageColumn) =>
    several
      ? `${programmeLabel(programme, detail)} · ${sources.find(({ id }) => id === sourceId)?.name ?? ''}`
      : programmeLabel(programme, detail);
  return (
    <Box sx={{ mt: 3 }}>
      <Typography variant="h2">
        {gaps === 0
          ? 'Every chain has what the others have'
          : `${countWord(gaps, 'recording is', 'recordings are')} missing`}
      </Typography>
      <WideTable label="Takes of every chain and step">
        <Table aria-label="Takes of every chain and step" size="small">
          <TableHead>
            <TableRow>
              <TableCell>Chain</TableCell>
              {columns.map((column) => (
                <TableCell
                  key={labelOf(column)}
                  align="right"
                  sx={{ minWidth: 92, verticalAlign: 'bottom' }}
                >
                  {labelOf(column)}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map(({ chainId, cells }) => (
              <TableRow key={chainId}>
                <TableCell sx={{ minWidth: 150 }}>{nameOf(chainId)}</TableCell>
                {cells.map((cell, i) => (
                  <TableCell key={labelOf(columns[i]!)} align="right">
                    <Cell cell={cell} />
                  </TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 1, maxWidth: '86ch' }}>
        Takes that are checked and have a chain. Missing is what the run sheet asks for, and without
        a sheet what another chain has.
      </Typography>
    </Box>
  );
}
