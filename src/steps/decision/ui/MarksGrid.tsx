'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { DataGrid, type GridColDef } from '@mui/x-data-grid';
import { useSnackbar } from 'notistack';
import Papa from 'papaparse';
import { type ClipboardEvent, useMemo, useRef } from 'react';
import { belongsTo } from '@/core/decision/criteria';
import { pointsOf } from '@/core/decision/marks';
import { DECISIONS } from '@/steps/decision/endpoints';
import type { GivenMark, MarkDraft } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { countWord, date } from '@/ui/format';
import { token } from '@/ui/tokens';
import { GRID_LOOK } from '@/ui/grid-look';
import { NextLink } from '@/ui/NextLink';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { pastedMarks, readMark, writeMark } from './mark-cell';

/** A chain or an item, with what everybody gave it by criterion. */
interface Marked {
  of: MarkDraft['of'];
  id: string;
  name: string;
  marks: GivenMark[][];
}

type Row = Marked & { kind: string; mine: string[] } & Record<`c${number}`, string>;

function rowsOf({ chains, items }: DecisionView): Row[] {
  const all: (Marked & { kind: string })[] = [
    ...items.map(({ id, name: of, kind, marks }) => ({
      of: 'gear' as const,
      id,
      name: of,
      kind: kind,
      marks,
    })),
    ...chains.map(({ id, name: of, own }) => ({
      of: 'chain' as const,
      id,
      name: of,
      kind: 'chain',
      marks: own,
    })),
  ];
  return all.map((one) => {
    const mine = one.marks.map((given) => {
      const own = given.find((mark) => mark.mine);
      return own ? writeMark(own) : '';
    });
    const cells = Object.fromEntries(mine.map((text, i) => [`c${i}`, text] as const));
    return { ...one, mine, ...cells };
  });
}

/** "Mirela Voss 4, the gear list 3" */
const othersOf = (given: readonly GivenMark[]) =>
  given
    .filter(({ mine }) => !mine)
    .map(({ by, value, at, remark }) => {
      const when = at ? `, ${date(at)}` : '';
      return `${by} ${value}${remark && ` (${remark})`}${when}`;
    })
    .join('; ');

function Cell({
  given,
  mine,
  asked,
}: {
  given: readonly GivenMark[];
  mine: string;
  /** Whether such a thing is usually marked on this. */
  asked: boolean;
}) {
  const others = othersOf(given);
  const points = given.map(({ value }) => pointsOf(value));
  const apart = Math.max(...points) - Math.min(...points);
  return (
    <span title={[mine, others].filter(Boolean).join(' · ')}>
      {mine || (asked || others ? '–' : '')}
      {others && (
        <Box component="span" sx={{ color: token('soft'), ml: 0.75, fontSize: '0.75rem' }}>
          {countWord(given.filter((mark) => !mark.mine).length, 'other').toLowerCase()}
          {apart > 0 && `, ${apart} apart`}
        </Box>
      )}
    </span>
  );
}

/** Marks of items and chains by criterion; one's own are written, those of others are shown beside them. */
export function MarksGrid({ view }: { view: DecisionView }) {
  const { send } = useSend();
  const offerUndo = useUndo();
  const { enqueueSnackbar } = useSnackbar();
  const at = useRef({ row: 0, column: 0 });
  const { criteria, comparison } = view;
  const rows = useMemo(() => rowsOf(view), [view]);
  const columns = useMemo(
    (): GridColDef<Row>[] => [
      { field: 'name', headerName: 'Chain or item', flex: 1.4, minWidth: 150 },
      { field: 'kind', headerName: 'Kind', width: 96 },
      ...criteria.map((criterion, i): GridColDef<Row> => ({
        field: `c${i}`,
        headerName: criterion.name,
        flex: 1,
        minWidth: 110,
        editable: true,
        renderCell: ({ row }) => (
          <Cell
            given={row.marks[i]!}
            mine={row.mine[i]!}
            asked={row.of === 'chain' || belongsTo(criterion.name, row.kind)}
          />
        ),
      })),
    ],
    [criteria],
  );
  const draftOf = (row: Row, column: number, text: string): MarkDraft => {
    const read = readMark(text);
    const typed = 'fault' in read ? { value: null, remark: '' } : read;
    return { of: row.of, id: row.id, criterion: criteria[column]!.name, ...typed };
  };
  const give = async (marks: MarkDraft[], before: MarkDraft[], said: string) => {
    const ids = { id: comparison.id };
    if (!(await send(DECISIONS.mark, ids, { marks }))) return false;
    offerUndo(said, (again) => again(DECISIONS.mark, ids, { marks: before }));
    return true;
  };
  const keep = async (now: Row, before: Row): Promise<Row> => {
    const column = criteria.findIndex((_, i) => now[`c${i}`] !== before[`c${i}`]);
    if (column < 0) return before;
    const text = now[`c${column}`] ?? '';
    const read = readMark(text);
    if ('fault' in read) {
      enqueueSnackbar(`${read.fault} The mark stays as it was.`, { variant: 'error' });
      return before;
    }
    const said = `${now.name}, ${criteria[column]!.name}: ${read.value ?? 'taken back'}.`;
    const marks = [draftOf(now, column, text)];
    const done = await give(marks, [draftOf(before, column, before.mine[column]!)], said);
    return done ? now : before;
  };
  const paste = async (event: ClipboardEvent) => {
    // Into a cell that is being written the text goes as it is.
    if (event.target instanceof HTMLInputElement) return;
    event.preventDefault();
    const text = event.clipboardData.getData('text/plain').replace(/\r?\n$/, '');
    const { data } = Papa.parse<string[]>(text, { delimiter: text.includes('\t') ? '\t' : '' });
    const table = { rows: rows.map((row) => row.name), columns: criteria.map((one) => one.name) };
    const pasted = pastedMarks(data, table, at.current);
    if ('fault' in pasted) {
      enqueueSnackbar(pasted.fault, { variant: 'error', autoHideDuration: 9000 });
      return;
    }
    const changed = pasted.filter(
      ({ row, column, ...mark }) => writeMark(mark) !== rows[row]!.mine[column],
    );
    if (changed.length === 0) return;
    await give(
      changed.map(({ row, column, ...mark }) => draftOf(rows[row]!, column, writeMark(mark))),
      changed.map(({ row, column }) => draftOf(rows[row]!, column, rows[row]!.mine[column]!)),
      `${countWord(changed.length, 'mark')} pasted.`,
    );
  };
  if (criteria.length === 0) {
    return (
      <Typography>
        Marks are given on the criteria of the question, and it names none yet. Write them down
        there, with what each weighs.{' '}
        <Link
          underline="always"
          component={NextLink}
          href={`/comparisons/${comparison.id}/question`}
        >
          Go to the question
        </Link>
      </Typography>
    );
  }
  return (
    <>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '80ch', mb: 1 }}>
        1 to 5, yes or no, a remark after it if you like: “2 the clip slips”. An item’s mark counts
        in every chain that holds it, the lowest of its items; a mark of the chain itself goes
        before. Enter writes, cells can be pasted from a spreadsheet.
      </Typography>
      <Box onPaste={(event) => void paste(event)}>
        <DataGrid
          aria-label="Marks"
          rows={rows}
          columns={columns}
          processRowUpdate={keep}
          slotProps={{
            cell: {
              onFocus: ({ currentTarget }) => {
                const column = Number(currentTarget.getAttribute('data-field')?.slice(1));
                const id = currentTarget.closest('[data-id]')?.getAttribute('data-id');
                const row = rows.findIndex((one) => one.id === id);
                at.current = { row, column: Number.isInteger(column) ? column : 0 };
              },
            },
          }}
          disableColumnSorting
          density="compact"
          disableRowSelectionOnClick
          disableColumnMenu
          hideFooter
          sx={GRID_LOOK}
        />
      </Box>
      <Box sx={{ mt: 1, fontSize: '0.875rem' }}>
        <Link href={`/api/comparisons/${comparison.id}/decision/marks.csv`}>
          Every mark ever given, as CSV
        </Link>
      </Box>
    </>
  );
}
