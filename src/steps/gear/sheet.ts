import { ACCESSORIES, ATTRIBUTES, COLUMNS } from './cells';
import type { Gear } from './schema';

/** One fact of several items. */
export interface SheetRow {
  label: string;
  /** As many as there are items; empty where nothing is known. */
  cells: string[];
  /** Whether two items that are known differ in it; never of sentences. */
  differs: boolean;
}

/** Sentences differ by nature; that tells nothing. */
const PROSE = new Set(['condition', 'notes']);

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function rowOf(label: string, cells: string[]): SheetRow {
  const known = new Set(cells.filter(Boolean).map((cell) => cell.toLowerCase()));
  return { label: capital(label), cells, differs: known.size > 1 && !PROSE.has(label) };
}

/**
 * Items side by side: every fact that is known of one of them, in the order of the gear list's columns, then the
 * studio's own attributes, the commonest first.
 * @param nameOf of an accessory
 */
export function sheetOf(items: readonly Gear[], nameOf: (id: string) => string): SheetRow[] {
  const facts = COLUMNS.filter(({ header }) => header !== 'name' && header !== ATTRIBUTES).map(
    (column) =>
      rowOf(
        column.header === ACCESSORIES ? 'comes with' : column.header,
        items.map((item) => column.write(item, nameOf)),
      ),
  );
  const uses = new Map<string, number>();
  for (const { attributes = {} } of items) {
    for (const name of Object.keys(attributes)) uses.set(name, (uses.get(name) ?? 0) + 1);
  }
  const own = [...uses]
    .sort(([a, n], [b, m]) => m - n || a.localeCompare(b, 'en'))
    .map(([name]) =>
      rowOf(
        name,
        items.map(({ attributes = {} }) => attributes[name] ?? ''),
      ),
    );
  return [...facts, ...own].filter(({ cells }) => cells.some(Boolean));
}
