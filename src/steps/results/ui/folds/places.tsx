import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Interaction, Place } from '@/core/statistics/reading/interactions';
import { ALPHA, list } from '@/core/statistics/words';
import { WideTable } from '@/ui/WideTable';
import { Method, pCell, signed } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const named = ({ source, context }: Place, { varies }: Interaction) =>
  varies === 'source' ? `${source}, ${context}` : `${context}, ${source}`;

function inWords({ pHolm, topChanged }: Interaction): string {
  if (pHolm === null) return 'cannot be tested';
  if (pHolm >= ALPHA) return 'no change of order shown';
  return topChanged ? 'the order turns' : 'strengths move, the first place does not';
}

/** Chains that gain and lose most. */
function moves({ shifts }: Interaction): string {
  const sorted = [...shifts].sort((x, y) => y.shift - x.shift);
  const [up, down] = [sorted[0], sorted[sorted.length - 1]];
  if (!up || !down || up === down) return '–';
  return `${up.chain} ${signed(up.shift)}, ${down.chain} ${signed(down.shift)}`;
}

function Between({ across: { interactions } }: FoldProps) {
  return (
    <>
      <WideTable label="Between places">
        <Table size="small" aria-label="Between places">
          <TableHead>
            <TableRow>
              <TableCell>From</TableCell>
              <TableCell>To</TableCell>
              <TableCell align="right">Listeners</TableCell>
              <TableCell align="right">p, Holm</TableCell>
              <TableCell align="right">Orders alike, τ</TableCell>
              <TableCell>In words</TableCell>
              <TableCell>Gains and loses most</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {interactions.map((one) => (
              <TableRow key={JSON.stringify([one.task, one.first, one.second])}>
                <TableCell>{named(one.first, one)}</TableCell>
                <TableCell>{named(one.second, one)}</TableCell>
                <TableCell align="right">{one.listeners}</TableCell>
                <TableCell align="right">{pCell(one.pHolm)}</TableCell>
                <TableCell align="right">{one.tauB?.toFixed(2) ?? '–'}</TableCell>
                <TableCell>{inWords(one)}</TableCell>
                <TableCell>{moves(one)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
      <Method>
        Block test on what each listener gives a chain in the second place less what they give it in
        the first, over listeners who judged everything in both, corrected for all tests of its kind
        (Holm). τ is 1 where both places order the chains alike, −1 where they order them the other
        way round. A small p beside a τ near 1 is a matter of spread, not of order.
      </Method>
    </>
  );
}

export const places: Fold = {
  id: 'places',
  title({ across: { interactions, picture } }) {
    if (interactions.length === 0) return null;
    const open = picture.map(({ place }) => place).filter(Boolean);
    return `Between places: ${list(open)}`;
  },
  View: Between,
};
