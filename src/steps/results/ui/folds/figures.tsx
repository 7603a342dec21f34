import { type Column, DataTable } from '@/ui/DataTable';
import { CsvButton } from '@/ui/CsvButton';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const shown = (value: number | null) => (value === null ? '–' : value.toFixed(0));

const PLACE: Column<{ place: string }> = {
  label: 'Place',
  cell: ({ place }) => place,
  by: ({ place }) => place,
};

function Figures({ across: { picture } }: FoldProps) {
  const rows = picture.flatMap(({ place, unit, chains }) =>
    [...chains]
      .sort((x, y) => (y.value ?? -1) - (x.value ?? -1))
      .map((own) => ({ place, unit: unit === 'share' ? '%' : 'points', ...own })),
  );
  const several = picture.length > 1;
  return (
    <>
      <DataTable
        wide
        label="Figures"
        sx={{ maxWidth: 860 }}
        rows={rows}
        keyOf={({ place, chain }) => `${place} ${chain}`}
        columns={[
          ...(several ? [PLACE] : []),
          { label: 'Chain', cell: ({ chain }) => chain, by: ({ chain }) => chain },
          {
            label: 'Strength',
            cell: ({ value, unit }) => `${shown(value)} ${unit}`,
            by: ({ value }) => value,
            mostFirst: true,
            right: true,
          },
          { label: '95 % from', cell: ({ from }) => shown(from), right: true },
          { label: 'to', cell: ({ to }) => shown(to), right: true },
          { label: 'Best?', cell: ({ leads }) => (leads ? 'may be' : '–') },
        ]}
      />
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
