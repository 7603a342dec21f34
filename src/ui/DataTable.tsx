'use client';

import type { SxProps } from '@mui/material/styles';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import {
  type ColumnDef,
  createSortedRowModel,
  type Row as TableLine,
  rowSortingFeature,
  type SortingState,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { type ReactNode, useMemo, useState } from 'react';
import { token } from './tokens';
import { WideTable } from './WideTable';

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() });
type Features = typeof features;

const words = new Intl.Collator('en', { numeric: true });

function compare<Line extends object>(
  x: TableLine<Features, Line>,
  y: TableLine<Features, Line>,
  id: string,
): number {
  const [a, b] = [x.getValue(id), y.getValue(id)];
  return typeof a === 'number' && typeof b === 'number'
    ? a - b
    : words.compare(String(a), String(b));
}

export interface Column<Row extends object> {
  label: string;
  /** Tells columns apart whose labels are alike, and names them to the server. */
  id?: string;
  cell: (row: Row) => ReactNode;
  /** What rows are sorted by, where they can be; what is unknown comes last. */
  by?: (row: Row) => string | number | Date | null | undefined;
  /** The first press puts the most first. */
  mostFirst?: boolean;
  /** Numbers stand to the right. */
  right?: boolean;
  /** Names the row, also to a screen reader. */
  names?: boolean;
  sx?: SxProps;
  /** Looks that hang on what the row holds. */
  sxOf?: (row: Row) => SxProps | undefined;
  headSx?: SxProps;
}

const valueOf = (value: string | number | Date | null | undefined) =>
  value instanceof Date ? value.getTime() : (value ?? undefined);

const idOf = <Row extends object>({ id, label }: Column<Row>) => (id ?? label) || 'unnamed';

/**
 * Rows under headings. A heading whose column can be sorted by is pressed for it: once, the other
 * way round, and back to the order the rows came in.
 */
export function DataTable<Row extends object>({
  label,
  columns,
  rows,
  keyOf,
  sorted,
  onSort,
  wide = false,
  size = 'small',
  sx,
}: {
  label: string;
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  /** Tells rows apart; the index is that of the order they came in. */
  keyOf: (row: Row, index: number) => string;
  /** How the server has sorted them; `onSort` then asks it for another order. */
  sorted?: { id: string; desc: boolean };
  onSort?: (id: string, desc: boolean) => void;
  /** Whether it may be wider than the page. */
  wide?: boolean;
  size?: 'small' | 'medium';
  sx?: SxProps;
}) {
  const [own, setOwn] = useState<SortingState>([]);
  const sorting = useMemo(() => (sorted ? [sorted] : own), [sorted, own]);
  const table = useTable({
    features,
    data: useMemo(() => rows.map((row) => ({ row })), [rows]),
    columns: useMemo(
      () =>
        columns.map((column): ColumnDef<Features, { row: Row }> => ({
          id: idOf(column),
          accessorFn: ({ row }) => valueOf(column.by?.(row)),
          enableSorting: column.by !== undefined,
          sortDescFirst: column.mostFirst ?? false,
          sortUndefined: 'last',
          sortFn: compare,
        })),
      [columns],
    ),
    getRowId: ({ row }, index) => keyOf(row, index),
    state: { sorting },
    manualSorting: sorted !== undefined,
    enableSortingRemoval: sorted === undefined,
    onSortingChange: (change) => {
      const next = typeof change === 'function' ? change(sorting) : change;
      if (!sorted) setOwn(next);
      else if (next[0]) onSort?.(next[0].id, next[0].desc);
    },
  });
  const inner = (
    <Table aria-label={label} size={size} sx={sx}>
      <TableHead>
        <TableRow>
          {columns.map((column) => {
            const head = table.getColumn(idOf(column));
            const direction = head?.getIsSorted() || false;
            return (
              <TableCell
                key={idOf(column)}
                align={column.right ? 'right' : undefined}
                sortDirection={direction}
                sx={column.headSx}
              >
                {head?.getCanSort() ? (
                  <TableSortLabel
                    // An arrow that is not there must not take the heading's room.
                    hideSortIcon
                    active={direction !== false}
                    direction={direction || head.getFirstSortDir()}
                    onClick={() => head.toggleSorting()}
                    sx={{
                      textDecoration: `underline dotted ${token('rule')}`,
                      textUnderlineOffset: '4px',
                    }}
                  >
                    {column.label}
                  </TableSortLabel>
                ) : (
                  column.label
                )}
              </TableCell>
            );
          })}
        </TableRow>
      </TableHead>
      <TableBody>
        {table.getRowModel().rows.map(({ id, original: { row } }) => (
          <TableRow key={id}>
            {columns.map((column) => (
              <TableCell
                key={idOf(column)}
                {...(column.names && { component: 'th', scope: 'row' })}
                align={column.right ? 'right' : undefined}
                sx={column.sxOf?.(row) ?? column.sx}
              >
                {column.cell(row)}
              </TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
  return wide ? <WideTable label={label}>{inner}</WideTable> : inner;
}
