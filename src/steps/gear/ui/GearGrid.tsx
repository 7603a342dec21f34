'use client';

import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import EditOutlinedIcon from '@mui/icons-material/EditOutlined';
import HearingOutlinedIcon from '@mui/icons-material/HearingOutlined';
import { DataGrid, type GridColDef, type GridSortModel } from '@mui/x-data-grid';
import { useSnackbar } from 'notistack';
import { useMemo } from 'react';
import { GEAR_KINDS } from '@/core/chain/kinds';
import { GEAR } from '@/steps/gear/endpoints';
import { BY_HEADER, itemFromCells, plain } from '@/steps/gear/cells';
import {
  type Gear,
  GEAR_PAGE,
  type GearList,
  type GearQuery,
  type GearSort,
  type ListedGear,
  OWNERSHIPS,
  SCORES,
} from '@/steps/gear/schema';
import { money } from '@/ui/format';
import { FACES, token } from '@/ui/tokens';
import { GRID_LOOK } from '@/ui/grid-look';
import { NextLink } from '@/ui/NextLink';
import { useSend } from '@/ui/useSend';
import { specLine } from './spec-line';

/** Columns that are edited in place; the name in the grid is the header of the cell. */
const IN_PLACE = ['name', 'kind', 'maker', 'price (€)', 'ownership', 'condition', 'notes'] as const;
type InPlace = (typeof IN_PLACE)[number];
type Row = Record<InPlace, string> & { id: string; gear: ListedGear };

/** Columns that the list can be sorted by, and what its address calls them. */
const SORTED: Record<string, GearSort> = {
  name: 'name',
  kind: 'kind',
  maker: 'maker',
  'price (€)': 'price',
  ownership: 'ownership',
  marks: 'marks',
};

function rowOf(gear: ListedGear): Row {
  const cells = IN_PLACE.map((header) => {
    const column = BY_HEADER.get(plain(header));
    return [header, column?.write(gear, () => '') ?? ''] as const;
  });
  return { ...(Object.fromEntries(cells) as Record<InPlace, string>), id: gear.id, gear };
}

function marksOf({ scores }: Gear): number | null {
  const given = SCORES.flatMap((score) => scores[score] ?? []);
  return given.length === 0 ? null : given.reduce((sum, mark) => sum + mark, 0) / given.length;
}

export function GearGrid({
  list: { items, query, found },
  onOpen,
  onRemove,
  onGo,
  onChoose,
}: {
  list: GearList;
  onOpen: (gear: Gear) => void;
  onRemove: (gear: Gear) => void;
  onGo: (change: Partial<GearQuery>) => void;
  /** Which rows are ticked. */
  onChoose: (ids: string[]) => void;
}) {
  const { send } = useSend();
  const { enqueueSnackbar } = useSnackbar();
  const rows = useMemo(() => items.map(rowOf), [items]);
  const columns = useMemo(() => {
    const all: GridColDef<Row>[] = [
      {
        field: 'actions',
        headerName: 'Open, what was heard, remove',
        width: 116,
        renderHeader: () => null,
        renderCell: ({ row }) => (
          <>
            <IconButton
              size="small"
              aria-label={`Open ${row.name}`}
              onClick={() => onOpen(row.gear)}
            >
              <EditOutlinedIcon fontSize="small" />
            </IconButton>
            <IconButton
              size="small"
              component={NextLink}
              href={`/gear/${row.id}`}
              aria-label={`What was heard of ${row.name}`}
              title="What was heard of it"
            >
              <HearingOutlinedIcon fontSize="small" />
            </IconButton>
            <IconButton
              size="small"
              aria-label={`Remove ${row.name}`}
              onClick={() => onRemove(row.gear)}
            >
              <DeleteOutlineIcon fontSize="small" />
            </IconButton>
          </>
        ),
      },
      { field: 'name', headerName: 'Name', flex: 1, minWidth: 130, editable: true },
      {
        field: 'kind',
        headerName: 'Kind',
        width: 98,
        editable: true,
        type: 'singleSelect',
        valueOptions: [...GEAR_KINDS],
      },
      { field: 'maker', headerName: 'Maker', width: 104, editable: true },
      {
        field: 'specs',
        headerName: 'What is known',
        flex: 2.2,
        minWidth: 240,
        valueGetter: (_, { gear: item }) => specLine(item),
        renderCell: ({ value }) => (
          <Box
            component="span"
            title={String(value)}
            sx={{ fontSize: '0.8125rem', color: token('soft') }}
          >
            {String(value) || '–'}
          </Box>
        ),
      },
      {
        field: 'price (€)',
        headerName: 'Price, €',
        width: 108,
        align: 'right',
        headerAlign: 'right',
        editable: true,
        renderCell: ({ row }) => (
          <span style={{ fontFamily: FACES.mono, fontVariantNumeric: 'tabular-nums' }}>
            {money(row.gear.priceCents).replace(' €', '')}
          </span>
        ),
      },
      {
        field: 'ownership',
        headerName: 'Ours?',
        width: 98,
        editable: true,
        type: 'singleSelect',
        valueOptions: [...OWNERSHIPS],
      },
      {
        field: 'accessories',
        headerName: 'Comes with',
        width: 170,
        valueGetter: (_, { gear: item }) => item.accessories.map(({ name }) => name).join(', '),
      },
      {
        field: 'marks',
        headerName: 'Marks',
        width: 74,
        align: 'right',
        headerAlign: 'right',
        type: 'number',
        valueGetter: (_, { gear: item }) => marksOf(item),
        valueFormatter: (value: number | null) => (value === null ? '–' : value.toFixed(1)),
      },
      { field: 'condition', headerName: 'Condition', width: 150, editable: true },
      { field: 'notes', headerName: 'Notes', width: 200, editable: true },
    ];
    return all.map((column) => ({ ...column, sortable: column.field in SORTED }));
  }, [onOpen, onRemove]);
  const down = query.sort.startsWith('-');
  const sorted = Object.keys(SORTED).find((field) => SORTED[field] === query.sort.replace('-', ''));
  const sort = ([by]: GridSortModel) => {
    const named = by ? SORTED[by.field] : undefined;
    onGo({ sort: named ? (by?.sort === 'desc' ? `-${named}` : named) : 'kind' });
  };
  /** Keeps one changed row; a cell that cannot be true goes back, with the reason. */
  const keep = async (now: Row, before: Row): Promise<Row> => {
    const changed = IN_PLACE.filter((header) => now[header] !== before[header]);
    if (changed.length === 0) return before;
    const cells = changed.flatMap((header) => {
      const column = BY_HEADER.get(plain(header));
      return column ? [[column, now[header]] as const] : [];
    });
    const { draft, faults } = itemFromCells(cells, before.gear);
    if (!draft) {
      enqueueSnackbar(`${faults[0]!.message} ${before.name} stays as it was.`, {
        variant: 'error',
      });
      return before;
    }
    const { id, version, accessoryIds } = before.gear;
    const body = { draft: { ...draft, accessoryIds }, version };
    return (await send(GEAR.change, { gearId: id }, body)) ? now : before;
  };
  return (
    <Box sx={{ height: 'calc(100vh - 250px)', minHeight: 380, minWidth: 0 }}>
      <DataGrid
        aria-label="Gear"
        rows={rows}
        columns={columns}
        processRowUpdate={keep}
        density="compact"
        disableRowSelectionOnClick
        checkboxSelection
        onRowSelectionModelChange={({ type, ids }) =>
          onChoose(rows.map(({ id }) => id).filter((id) => ids.has(id) === (type === 'include')))
        }
        disableColumnMenu
        sortingMode="server"
        sortModel={sorted ? [{ field: sorted, sort: down ? 'desc' : 'asc' }] : []}
        onSortModelChange={sort}
        paginationMode="server"
        rowCount={found}
        paginationModel={{ page: query.page - 1, pageSize: GEAR_PAGE }}
        onPaginationModelChange={({ page }) => onGo({ page: page + 1 })}
        pageSizeOptions={[GEAR_PAGE]}
        hideFooter={found <= GEAR_PAGE}
        sx={GRID_LOOK}
      />
    </Box>
  );
}
