import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { Across, ListenerRow } from '@/steps/results/across';
import type { Result } from '@/steps/results/service';
import { ALPHA, list, pText } from '@/core/statistics/words';
import { CsvButton } from '@/ui/CsvButton';
import { token } from '@/ui/tokens';
import { WideTable } from '@/ui/WideTable';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const times = (tally: { times: number; of: number } | null) =>
  tally ? `${tally.times} of ${tally.of}` : '–';
const number = (value: number | null, digits = 2) => value?.toFixed(digits) ?? '–';

/** Ends of the axis that tastes differ along, in words; null where none is shown. */
function axisOf({ listeners }: Across): string | null {
  const axis = listeners?.camps?.axis;
  if (!axis) return null;
  const sorted = [...axis].sort((x, y) => y.score - x.score);
  return `${sorted[0]!.chain} against ${sorted[sorted.length - 1]!.chain}`;
}

function Ends({ across }: FoldProps) {
  const { camps } = across.listeners ?? {};
  const axis = axisOf(across);
  if (!camps) {
    return (
      <Typography sx={{ maxWidth: '76ch' }}>
        Whether tastes differ along one axis takes six listeners who judged every chain, and three
        chains.
      </Typography>
    );
  }
  if (!axis) {
    return (
      <Typography sx={{ maxWidth: '76ch' }}>
        No common axis of taste was shown ({pText(camps.p)}); that does not make the panel of one
        mind.
      </Typography>
    );
  }
  return (
    <>
      <Typography sx={{ maxWidth: '76ch' }}>
        Tastes differ along one axis, {axis} ({pText(camps.p)}). Its two ends:
      </Typography>
      {camps.groups?.map(({ side, listeners, top }) => (
        <Typography key={side} sx={{ maxWidth: '76ch' }}>
          {list(listeners)}: {top.length > 0 ? `most for ${list(top)}` : 'no first place'}.
        </Typography>
      ))}
    </>
  );
}

/** Paler from first to last; the number says it, too. */
function Rank({ rank, of }: { rank: number | undefined; of: number }) {
  const strength = rank === undefined || of < 2 ? 0 : 38 * (1 - (rank - 1) / (of - 1));
  return (
    <TableCell
      align="right"
      sx={{ bgcolor: `color-mix(in srgb, ${token('pen')} ${strength.toFixed(0)}%, transparent)` }}
    >
      {rank === undefined ? '–' : Number.isInteger(rank) ? rank : rank.toFixed(1)}
    </TableCell>
  );
}

type Column<Row> = [title: string, of: (row: Row) => string];

/** Columns of what a listener liked, only those that hold something. */
function columnsOf(rows: readonly ListenerRow[]): Column<ListenerRow>[] {
  const columns: Column<ListenerRow>[] = [
    ['With the others', ({ agreement }) => number(agreement)],
    ['Consistency ζ', ({ zeta }) => number(zeta)],
    ['Circles of three', ({ circles }) => times(circles)],
    ['Scatter of repeats', ({ scatter }) => number(scatter, 1)],
    ['Chose the louder', ({ louder }) => times(louder)],
    ['Chose the first of two alike', ({ first }) => times(first)],
  ];
  return columns.filter(([, of]) => rows.some((row) => of(row) !== '–'));
}

/** Listeners down, chains across; along the axis of taste where there is one. */
function Tastes({ rows, chains }: { rows: readonly ListenerRow[]; chains: readonly string[] }) {
  const columns = columnsOf(rows);
  return (
    <WideTable label="Listeners">
      <Table size="small" aria-label="Listeners">
        <TableHead>
          <TableRow>
            <TableCell>Listener</TableCell>
            {[...chains, ...columns.map(([title]) => title)].map((title) => (
              <TableCell key={title} align="right">
                {title}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.listener}>
              <TableCell>{row.listener}</TableCell>
              {chains.map((chain) => (
                <Rank key={chain} rank={row.ranks[chain]} of={chains.length} />
              ))}
              {columns.map(([title, of]) => (
                <TableCell key={title} align="right">
                  {of(row)}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </WideTable>
  );
}

/** How everybody answered, whatever was asked. */
function Pace({ pace, fromPack }: Pick<Result, 'pace' | 'fromPack'>) {
  return (
    <WideTable label="How they answered">
      <Table size="small" aria-label="How they answered" sx={{ maxWidth: 760 }}>
        <TableHead>
          <TableRow>
            <TableCell>Listener</TableCell>
            <TableCell align="right">Answers</TableCell>
            <TableCell align="right">Seconds each</TableCell>
            <TableCell align="right">Hasty</TableCell>
            <TableCell align="right">Not fetched</TableCell>
            <TableCell>Devices</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {pace.map(({ listener, answers, medianS, hasty, unfetched, devices, sameAs }) => (
            <TableRow key={listener}>
              <TableCell>{listener}</TableCell>
              <TableCell align="right">{answers}</TableCell>
              <TableCell align="right">{fromPack ? '–' : medianS.toFixed(0)}</TableCell>
              <TableCell align="right">{hasty || '–'}</TableCell>
              <TableCell align="right">{unfetched || '–'}</TableCell>
              <TableCell>
                {devices || '–'}
                {sameAs && `, the browser of ${sameAs}`}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </WideTable>
  );
}

function Listeners(props: FoldProps) {
  const { across, result } = props;
  const rows = across.listeners?.rows ?? [];
  const chains = result.chains.filter((chain) => rows.some(({ ranks }) => chain in ranks));
  return (
    <>
      {rows.length > 0 && (
        <>
          <Ends {...props} />
          <Tastes rows={rows} chains={chains} />
          <Method>
            Numbers under a chain are its rank for that listener, 1 the best.{' '}
            {across.listeners?.camps?.axis
              ? 'Listeners stand in their order along the axis. '
              : 'Those whom the others agree with most stand first. '}
            With the others: Spearman’s correlation with the mean of the others, 1 to −1. ζ is 1
            without circles of three (A over B, B over C, but C over A), 0 with as many as there can
            be; it is left open where a listener had no preference in some pair. Scatter of repeats
            in points.
          </Method>
          <CsvButton
            fileName="listeners.csv"
            rows={rows.map(({ listener, ranks, agreement, zeta, scatter, score }) => ({
              listener,
              ...Object.fromEntries(chains.map((chain) => [chain, ranks[chain] ?? null])),
              agreement,
              zeta,
              scatter,
              score,
            }))}
          />
        </>
      )}
      <Pace {...result} />
      <Method>
        Hasty: by the bank’s own clock answered in less time than half as long again as hearing each
        recording for the least that is asked. Not fetched: answers before which some recording was
        never sent. All are counted; nobody is weighted or dropped.
      </Method>
    </>
  );
}

export const listeners: Fold = {
  id: 'listeners',
  title({ across }) {
    const { camps } = across.listeners ?? {};
    return camps && camps.p < ALPHA ? 'Listeners: tastes differ along one axis' : 'Listeners';
  },
  View: Listeners,
};
