import { MARK_VALUES, type MarkValue } from '@/core/decision/marks';

/** A mark as it is typed into a cell: "4", "yes", or "2 the clip slips". */
export interface TypedMark {
  value: MarkValue | null;
  remark: string;
}

const MOST_REMARK = 300;

/** @returns a sentence where the text is no mark */
export function readMark(text: string): TypedMark | { fault: string } {
  const whole = text.trim();
  if (whole === '' || whole === '–') return { value: null, remark: '' };
  const [first = '', ...rest] = whole.split(/\s+/);
  const value = MARK_VALUES.find((one) => one === first.toLowerCase().replace(/[,;:.]$/, ''));
  if (!value) return { fault: `“${whole.slice(0, 40)}” is no mark: write 1 to 5, yes or no.` };
  const remark = rest.join(' ');
  return remark.length > MOST_REMARK
    ? { fault: `A remark has at most ${MOST_REMARK} characters.` }
    : { value, remark };
}

export function writeMark({ value, remark }: TypedMark): string {
  return value === null ? '' : `${value} ${remark}`.trim();
}

/** What is pasted: cells by row and column of the table. */
export interface PastedMark extends TypedMark {
  row: number;
  column: number;
}

const plain = (text: string) => text.trim().toLowerCase();

/**
 * Marks out of cells that were copied from a spreadsheet. Cells with names down the side and criteria across are put
 * where these names stand; others go from one cell on to the right and down.
 * @returns the marks, or a sentence that names what does not fit; then nothing of it is kept
 */
export function pastedMarks(
  cells: readonly (readonly string[])[],
  table: { rows: readonly string[]; columns: readonly string[] },
  at: { row: number; column: number },
): PastedMark[] | { fault: string } {
  const [head = []] = cells;
  const columnOf = (name: string) => table.columns.findIndex((one) => plain(one) === plain(name));
  const rowOf = (name: string) => table.rows.findIndex((one) => plain(one) === plain(name));
  const headed = head.slice(1).some((name) => columnOf(name) >= 0);
  if (headed) {
    const stranger = head.slice(1).find((name) => name.trim() !== '' && columnOf(name) < 0);
    if (stranger !== undefined) {
      return { fault: `There is no criterion “${stranger.trim()}”; nothing was pasted.` };
    }
  }
  const named = headed || cells.some(([name = '']) => rowOf(name) >= 0);
  const made: PastedMark[] = [];
  for (const [i, line] of cells.slice(headed ? 1 : 0).entries()) {
    const [name = '', ...own] = named ? line : ['', ...line];
    const row = named ? rowOf(name) : at.row + i;
    if (line.every((cell) => cell.trim() === '')) continue;
    if (row < 0) return { fault: `There is no “${name.trim()}” here; nothing was pasted.` };
    if (row >= table.rows.length)
      return { fault: 'There are more rows than here; nothing was pasted.' };
    for (const [j, cell] of own.entries()) {
      const column = headed ? columnOf(head[j + 1] ?? '') : (named ? 0 : at.column) + j;
      if (column < 0 || column >= table.columns.length) {
        if (cell.trim() === '') continue;
        return { fault: 'There are more columns than criteria; nothing was pasted.' };
      }
      const read = readMark(cell);
      if ('fault' in read) {
        return { fault: `${table.rows[row]}, ${table.columns[column]}: ${read.fault}` };
      }
      made.push({ row, column, ...read });
    }
  }
  return made;
}
