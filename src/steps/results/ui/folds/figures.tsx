import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { CsvButton } from '@/ui/CsvButton';
import { WideTable } from '@/ui/WideTable';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const shown = (value: number | null) => (value === null ? '–' : value.toFixed(0));

function Figures({ across: { picture } }: FoldProps) {
  const rows = picture.flatMap(({ place, unit, chains }) =>
    [...chains]
      .sort((x, y) => (y.value ?? -1) - (x.value ?? -1))
      .map((own) => ({ place, unit: unit === 'share' ? '%' : 'points', ...own })),
  );
  const several = picture.length > 1;
  return (
    <>
      <WideTable label="Figures">
        <Table size="small" aria-label="Figures" sx={{ maxWidth: 860 }}>
          <TableHead>
            <TableRow>
              {several && <TableCell>Place</TableCell>}
              <TableCell>Chain</TableCell>
              <TableCell align="right">Strength</TableCell>
              <TableCell align="right">95 % from</TableCell>
              <TableCell align="right">to</TableCell>
              <TableCell>Best?</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map(({ place, unit, chain, value, from, to, leads }) => (
              <TableRow key={`${place} ${chain}`}>
                {several && <TableCell>{place}</TableCell>}
                <TableCell>{chain}</TableCell>
                <TableCell align="right">{`${shown(value)} ${unit}`}</TableCell>
                <TableCell align="right">{shown(from)}</TableCell>
                <TableCell align="right">{shown(to)}</TableCell>
                <TableCell>{leads ? 'may be' : '–'}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
      <Method>
        Shares: of the choices made, against an average chain, from one model of all pairs of a
        place (Davidson 1970); intervals with the listener as the unit. Points: means on the line,
        from the mixed model. Best: multiple comparisons with the best at 95 % (Hsu 1984), told only
        where the place’s own test is under 5 %.
      </Method>
      <CsvButton
        fileName="strengths.csv"
        rows={rows.map(({ place, unit, chain, value, from, to, leads }) => ({
          place,
          chain,
          strength: value,
          from,
          to,
          unit,
          mayBeBest: leads ? 'yes' : '',
        }))}
      />
    </>
  );
}

export const figures: Fold = {
  id: 'figures',
  title: ({ across }) => (across.picture.length > 0 ? 'The figures' : null),
  View: Figures,
};
