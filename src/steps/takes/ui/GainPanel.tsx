'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { gainRemarks } from '@/core/checks/measured-gain';
import type { TakesView } from '@/steps/takes/takes-view';
import { type Column, DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { countWord, level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';

type GainRow = NonNullable<TakesView['gain']>['rows'][number];

const figureOf = (label: string, of: (row: GainRow) => number | null): Column<GainRow> => ({
  label,
  cell: (row) => (of(row) === null ? '–' : level(of(row), 1)),
  by: of,
  right: true,
});

function headingOf(rows: readonly GainRow[]): string {
  const short = rows.filter(({ leftDb }) => leftDb !== null && leftDb < 0).length;
  if (short > 0) return `${countWord(short, 'chain is', 'chains are')} short of gain, measured`;
  // Without data sheets nothing was planned.
  if (rows.every(({ offDb }) => offDb === null)) return 'What gain each chain needs, measured';
  const odd = rows.filter((row) => gainRemarks(row).length > 0).length;
  return odd > 0
    ? `${countWord(odd, 'chain does', 'chains do')} not come as loud as planned`
    : 'Gain comes as it was planned';
}

/** What gain each chain really needs, beside what data sheets say. */
export function GainPanel({ gain }: { gain: NonNullable<TakesView['gain']> }) {
  const { of, rows } = gain;
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2">{headingOf(rows)}</Typography>
      <DataTable
        wide
        label="Gain, measured"
        size="medium"
        sx={{ mt: 1 }}
        rows={rows}
        keyOf={({ chain }) => chain}
        columns={[
          {
            label: 'Chain',
            cell: ({ chain }) => chain,
            by: ({ chain }) => chain,
            sx: { minWidth: 130 },
          },
          {
            label: 'Recorded at, dB',
            cell: ({ recordedGainDb, knob }) =>
              recordedGainDb === null ? `knob ${knob}` : level(recordedGainDb, 1),
            by: ({ recordedGainDb }) => recordedGainDb,
            right: true,
          },
          {
            label: 'At one gain',
            cell: ({ sensitivityDb }) => signed(sensitivityDb, 1, 'dB'),
            by: ({ sensitivityDb }) => sensitivityDb,
            right: true,
          },
          figureOf('Needs, dB', ({ neededDb }) => neededDb),
          figureOf('Data sheets, dB', ({ predictedDb }) => predictedDb),
          figureOf('Left, dB', ({ leftDb }) => leftDb),
          {
            label: 'What to look at',
            cell: (row) => gainRemarks(row).join(' '),
            sx: { color: token('ochre'), minWidth: 200 },
          },
        ]}
      />
      <Typography sx={{ color: token('soft'), fontSize: '0.8125rem', mt: 1, maxWidth: '86ch' }}>
        From {of}, which all heard at once, and the gains that were written down. Needed: so that
        the average (as a sine) lies at −18 dBFS. How loud the source was is not known, so a chain
        is set against its data sheets by how both differ from the reference.
      </Typography>
      <CsvButton
        fileName="gain-measured.csv"
        rows={rows.map((row) => ({ ...row, remarks: gainRemarks(row).join(' ') }))}
      />
    </Box>
  );
}
