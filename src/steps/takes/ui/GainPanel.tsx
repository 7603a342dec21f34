'use client';

import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { gainRemarks } from '@/core/checks/measured-gain';
import type { TakesView } from '@/steps/takes/takes-view';
import { CsvButton } from '@/ui/CsvButton';
import { countWord, level, signed } from '@/ui/format';
import { token } from '@/ui/tokens';
import { WideTable } from '@/ui/WideTable';

const figure = (db: number | null) => (db === null ? '–' : level(db, 1));

function headingOf(rows: NonNullable<TakesView['gain']>['rows']): string {
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
      <WideTable label="Gain, measured">
        <Table aria-label="Gain, measured" sx={{ mt: 1 }}>
          <TableHead>
            <TableRow>
              <TableCell>Chain</TableCell>
              <TableCell align="right">Recorded at, dB</TableCell>
              <TableCell align="right">At one gain</TableCell>
              <TableCell align="right">Needs, dB</TableCell>
              <TableCell align="right">Data sheets, dB</TableCell>
              <TableCell align="right">Left, dB</TableCell>
              <TableCell>What to look at</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map((row) => (
              <TableRow key={row.chain}>
                <TableCell sx={{ minWidth: 130 }}>{row.chain}</TableCell>
                <TableCell align="right">{figure(row.recordedGainDb)}</TableCell>
                <TableCell align="right">{signed(row.sensitivityDb, 1, 'dB')}</TableCell>
                <TableCell align="right">{figure(row.neededDb)}</TableCell>
                <TableCell align="right">{figure(row.predictedDb)}</TableCell>
                <TableCell align="right">{figure(row.leftDb)}</TableCell>
                <TableCell sx={{ color: token('ochre'), minWidth: 200 }}>
                  {gainRemarks(row).join(' ')}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
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
