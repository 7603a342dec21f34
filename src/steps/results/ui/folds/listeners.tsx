import Typography from '@mui/material/Typography';
import type { Across, ListenerRow } from '@/steps/results/across';
import type { Result } from '@/steps/results/service';
import { ALPHA, list, pText } from '@/core/statistics/words';
import { type Column, DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { token } from '@/ui/tokens';
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

const MOST_NAMES = 20;

/** All of a small group, the first of a large one. */
function namesOf(listeners: readonly string[]): string {
  const more = listeners.length - MOST_NAMES;
  return more > 1
    ? `${listeners.slice(0, MOST_NAMES).join(', ')} and ${more} more`
    : list(listeners);
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
          {namesOf(listeners)}: {top.length > 0 ? `most for ${list(top)}` : 'no first place'}.
        </Typography>
      ))}
    </>
  );
}

/** Paler from first to last; the number says it, too. */
function shadeOf(rank: number | undefined, of: number) {
  const strength = rank === undefined || of < 2 ? 0 : 38 * (1 - (rank - 1) / (of - 1));
  return { bgcolor: `color-mix(in srgb, ${token('pen')} ${strength.toFixed(0)}%, transparent)` };
}

function rankText(rank: number | undefined): string {
  if (rank === undefined) return '–';
  return Number.isInteger(rank) ? String(rank) : rank.toFixed(1);
}

/** Columns of what a listener liked, only those that hold something. */
function columnsOf(rows: readonly ListenerRow[]): Column<ListenerRow>[] {
  const columns: [title: string, of: (row: ListenerRow) => string][] = [
    ['With the others', ({ agreement }) => number(agreement)],
    ['Consistency ζ', ({ zeta }) => number(zeta)],
    ['Circles of three', ({ circles }) => times(circles)],
    ['Scatter of repeats', ({ scatter }) => number(scatter, 1)],
    ['Chose the louder', ({ levelCatch }) => times(levelCatch)],
    ['Chose the first of two alike', ({ first }) => times(first)],
  ];
  return columns
    .filter(([, of]) => rows.some((row) => of(row) !== '–'))
    .map(([label, of]) => ({ label, cell: of, right: true }));
}

/** Listeners down, chains across; along the axis of taste where there is one. */
function Tastes({ rows, chains }: { rows: readonly ListenerRow[]; chains: readonly string[] }) {
  return (
    <DataTable
      wide
      label="Listeners"
      rows={rows}
      keyOf={({ listener }) => listener}
      columns={[
        { label: 'Listener', cell: ({ listener }) => listener, by: ({ listener }) => listener },
        ...chains.map((chain): Column<ListenerRow> => ({
          label: chain,
          id: `of ${chain}`,
          cell: ({ ranks }) => rankText(ranks[chain]),
          by: ({ ranks }) => ranks[chain],
          right: true,
          sxOf: ({ ranks }) => shadeOf(ranks[chain], chains.length),
        })),
        ...columnsOf(rows),
      ]}
    />
  );
}

/** How everybody answered, whatever was asked. */
function Pace({ pace, fromPack, fromFile }: Pick<Result, 'pace' | 'fromPack' | 'fromFile'>) {
  return (
    <DataTable
      wide
      label="How they answered"
      sx={{ maxWidth: 760 }}
      rows={pace}
      keyOf={({ listener }) => listener}
      columns={[
        { label: 'Listener', cell: ({ listener }) => listener, by: ({ listener }) => listener },
        { label: 'Answers', cell: ({ answers }) => answers, right: true },
        {
          label: 'Seconds each',
          cell: ({ medianS }) => (fromPack || fromFile ? '–' : medianS.toFixed(0)),
          by: ({ medianS }) => medianS,
          right: true,
        },
        {
          label: 'Hasty',
          cell: ({ hasty }) => hasty || '–',
          by: ({ hasty }) => hasty,
          mostFirst: true,
          right: true,
        },
        {
          label: 'Not fetched',
          cell: ({ unfetched }) => unfetched || '–',
          by: ({ unfetched }) => unfetched,
          mostFirst: true,
          right: true,
        },
        {
          label: 'Devices',
          cell: ({ devices, sameAs }) =>
            `${devices || '–'}${sameAs ? `, the browser of ${sameAs}` : ''}`,
        },
      ]}
    />
  );
}

/** What those who train were shown to hear. */
function Ears({ ears }: Pick<Result, 'ears'>) {
  if (ears.listeners.length === 0) return null;
  return (
    <>
      <Typography component="h3" variant="h3" sx={{ mt: 2 }}>
        Their ears
      </Typography>
      {ears.says.map((sentence) => (
        <Typography key={sentence} sx={{ maxWidth: '76ch' }}>
          {sentence}
        </Typography>
      ))}
      {ears.of > ears.listeners.length && (
        <Typography sx={{ maxWidth: '76ch' }}>
          The first {ears.listeners.length} of {ears.of.toLocaleString('en-GB')}:
        </Typography>
      )}
      {ears.listeners.map(({ listener, says }) => (
        <Typography key={listener} sx={{ mt: 0.5, maxWidth: '76ch' }}>
          <b>{listener}</b>: {says.join(' ')}
        </Typography>
      ))}
      <Method>
        From training, whenever it was: tests, and thresholds of those who agreed to be seen. It
        describes the panel; nobody’s answers are dropped or weighted for it. A difference of two
        spectra is not one band of a made-up sound: what was heard there may be missed here.
      </Method>
    </>
  );
}

function Listeners(props: FoldProps) {
  const { across, result } = props;
  const { rows = [], of: listened = 0 } = across.listeners ?? {};
  const chains = result.chains.filter((chain) => rows.some(({ ranks }) => chain in ranks));
  return (
    <>
      {rows.length > 0 && (
        <>
          <Ends {...props} />
          {listened > rows.length && (
            <Typography sx={{ maxWidth: '76ch', mt: 0.5 }}>
              {rows.length} of {listened.toLocaleString('en-GB')} listeners are shown, evenly along
              their order; all of them are in the analysis under Key and files.
            </Typography>
          )}
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
      {result.paceOf > result.pace.length && (
        <Typography sx={{ maxWidth: '76ch', mt: 2 }}>
          Of {result.paceOf.toLocaleString('en-GB')} listeners the {result.pace.length} who were
          hasty most often:
        </Typography>
      )}
      <Pace {...result} />
      <Ears ears={result.ears} />
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
