import { isDeepStrictEqual } from 'node:util';
import Papa from 'papaparse';
import { decimalSignOf } from '@/core/text/numbers';
import { FORMULA, unmarked } from '@/core/text/formulae';
import {
  ACCESSORIES,
  BY_HEADER,
  type Column,
  COLUMNS,
  type GearItemDraft,
  itemFromCells,
  plain,
  withoutAccessories,
} from './cells';
import type { Gear, ImportPreview } from './schema';

export const MOST_ROWS = 5000;

export interface ReadItem {
  draft: GearItemDraft;
  /** Names of accessories; null when the file has no such column. */
  accessories: string[] | null;
}

/** The whole list as CSV (RFC 4180, UTF-8); reading it again gives the same list. */
export function gearCsv(gear: readonly Gear[]): string {
  const names = new Map(gear.map(({ id, name }) => [id, name]));
  const rows = gear.map((item) =>
    COLUMNS.map((column) => column.write(item, (id) => names.get(id) ?? '')),
  );
  // Text that a spreadsheet would take for a formula is marked; numbers are not touched.
  const escapeFormulae = FORMULA;
  return `${Papa.unparse({ fields: COLUMNS.map(({ header }) => header), data: rows }, { escapeFormulae, newline: '\r\n' })}\r\n`;
}

/**
 * Reads a list as CSV, or as pasted from a spreadsheet: comma, semicolon or tab between cells, point
 * or comma before decimals. Columns that the file has not leave known items as they are.
 * @returns what would happen, and the items that can be taken; a sentence when nothing can be read
 */
export function readGearCsv(
  text: string,
  known: readonly Gear[],
): { preview: ImportPreview; items: ReadItem[] } | { error: string } {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t'],
  });
  const [head, ...body] = parsed.data;
  if (!head || body.length === 0) {
    return { error: 'There is no row under a line of column names; nothing was changed.' };
  }
  if (body.length > MOST_ROWS) {
    return {
      error: `This list has ${body.length} rows; ${MOST_ROWS} at a time are the most. Part it and bring in one after the other; nothing was changed.`,
    };
  }
  const columns = head.map((header) => BY_HEADER.get(plain(header)));
  for (const needed of ['name', 'kind']) {
    if (!columns.some((column) => column?.header === needed)) {
      return {
        error: `There is no column “${needed}”. The first line has to name the columns, as in the file that “Export” makes; nothing was changed.`,
      };
    }
  }
  const byName = new Map(known.map((gear) => [gear.name.toLowerCase(), gear]));
  const preview: ImportPreview = {
    rows: [],
    faults: [],
    unknownColumns: head.filter((header, i) => !columns[i] && header.trim() !== ''),
  };
  const items: ReadItem[] = [];
  const seen = new Map<string, number>();
  const nameAt = columns.findIndex((column) => column?.header === 'name');
  const listed = new Set([
    ...byName.keys(),
    ...body.map((cells) => unmarked((cells[nameAt] ?? '').trim()).toLowerCase()),
  ]);
  const decimal = decimalSignOf(body.flat());
  body.forEach((cells, i) => {
    const line = i + 2;
    const given = columns.flatMap((column, c): [Column, string][] =>
      column ? [[column, unmarked((cells[c] ?? '').trim())]] : [],
    );
    const name = unmarked((cells[nameAt] ?? '').trim());
    const old = byName.get(name.toLowerCase());
    const { draft, accessories, faults } = itemFromCells(given, old, decimal);
    const missing = accessories?.find((one) => !listed.has(one.toLowerCase()));
    if (missing) {
      faults.push({
        column: ACCESSORIES,
        value: missing,
        message: `There is no item “${missing}”.`,
      });
    }
    const before = seen.get(name.toLowerCase());
    if (before) {
      faults.push({
        column: 'name',
        value: name,
        message: `Line ${before} has this name already.`,
      });
    }
    seen.set(name.toLowerCase(), line);
    if (faults.length > 0 || !draft) {
      preview.faults.push(...faults.map((fault) => ({ ...fault, line })));
      preview.rows.push({ line, name, change: 'fault' });
      return;
    }
    const same = old !== undefined && sameItem(old, draft, accessories, known);
    preview.rows.push({ line, name, change: old ? (same ? 'same' : 'changed') : 'new' });
    if (!same) items.push({ draft, accessories });
  });
  return { preview, items };
}

function sameItem(
  old: Gear,
  draft: GearItemDraft,
  accessories: string[] | null,
  known: readonly Gear[],
): boolean {
  if (!isDeepStrictEqual(withoutAccessories(old), draft)) return false;
  if (accessories === null) return true;
  const names = old.accessoryIds.map((id) =>
    known.find((gear) => gear.id === id)?.name.toLowerCase(),
  );
  const wanted = accessories.map((name) => name.toLowerCase());
  return names.sort().join('\n') === wanted.sort().join('\n');
}
