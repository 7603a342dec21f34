import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { type SightedShift, sightedFinding } from '@/core/statistics/sighted';
import { ALPHA, percent } from '@/core/statistics/words';
import { signed } from '@/ui/format';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

function Sighted({ result }: FoldProps) {
  const { sighted } = result;
  if (!sighted) return null;
  const { chains, pairs, listeners, same } = sighted;
  return (
    <>
      <Typography sx={{ maxWidth: '76ch', mt: 0.75 }}>{sightedFinding(sighted)}</Typography>
      <Typography sx={{ maxWidth: '76ch', mt: 0.75 }}>
        {same} of {pairs} pairs of {listeners} listeners were answered as before. None of this
        counts for or against any sound.
      </Typography>
      <Table size="small" aria-label="Choices with names and blind" sx={{ maxWidth: 620, mt: 1 }}>
        <TableHead>
          <TableRow>
            <TableCell>Chain</TableCell>
            <TableCell align="right">Pairs</TableCell>
            <TableCell align="right">Blind</TableCell>
            <TableCell align="right">With names</TableCell>
            <TableCell align="right">Change</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {chains.map((row) => (
            <TableRow key={row.chain}>
              <TableCell>{row.chain}</TableCell>
              <TableCell align="right">{row.pairs}</TableCell>
              <TableCell align="right">{percent(row.blind)}</TableCell>
              <TableCell align="right">{percent(row.sighted)}</TableCell>
              <TableCell align="right">
                {signed(100 * (row.sighted - row.blind), 0, 'points')}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Method>
        The same pairs of the same listeners, the same recordings in the same order, after the last
        blind trial; a tie is half a choice for each. Tested once: over listeners, by the sign of
        how far their choices moved towards the dearer of a pair. Single chains are described, not
        tested. Whoever answers twice also changes their mind for no reason; the test allows for
        that, the table does not.
      </Method>
    </>
  );
}

/** How far it moved, in a few words. */
function titleOf({ dearer, pValue, towards, away }: SightedShift): string {
  if (!dearer || pValue === null) return 'With names and prices: nothing moved';
  if (pValue >= ALPHA) return 'With names and prices: no shift was shown';
  return `With names and prices: ${towards > away ? 'towards' : 'away from'} the dearer`;
}

export const sighted: Fold = {
  id: 'sighted',
  title: ({ result }) => result.sighted && titleOf(result.sighted),
  View: Sighted,
};
