'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Coverage, CoverageCell, CoverageColumn } from '@/core/checks/coverage';
import { programmeLabel } from '@/core/checks/programme';
import type { Source } from '@/steps/comparisons/schema';
import { type Column, DataTable } from '@/ui/DataTable';
import { countWord } from '@/ui/format';
import { token } from '@/ui/tokens';

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
      <DataTable
        wide
        label="Takes of every chain and step"
        rows={rows}
        keyOf={({ chainId }) => chainId}
        columns={[
          { label: 'Chain', cell: ({ chainId }) => nameOf(chainId), sx: { minWidth: 150 } },
          ...columns.map((column, i): Column<(typeof rows)[number]> => ({
            label: labelOf(column),
            cell: ({ cells }) => <Cell cell={cells[i]!} />,
            right: true,
            headSx: { minWidth: 92, verticalAlign: 'bottom' },
          })),
        ]}
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 1, maxWidth: '86ch' }}>
        Takes that are checked and have a chain. Missing is what the run sheet asks for, and without
        a sheet what another chain has.
      </Typography>
    </Box>
  );
}
