import { PROGRAMME_IDS } from './programme';

/** A step of the test programme of one source, or its performance. */
export interface CoverageColumn {
  sourceId: string;
  programme: string;
  detail: string;
}

/** Something that is planned, or was recorded, of one chain. */
export type Covered = CoverageColumn & { chainId: string };

/** What there is of a chain in a column. */
export interface CoverageCell {
  takes: number;
  /** As many as the sheet asks for; where no line of a sheet speaks of the column, one, as another chain has it. */
  wanted: number;
}

export interface Coverage {
  columns: CoverageColumn[];
  rows: { chainId: string; cells: CoverageCell[] }[];
  /** Takes that are wanted and not there. */
  gaps: number;
}

const keyOf = ({ sourceId, programme, detail }: CoverageColumn) =>
  JSON.stringify([sourceId, programme, detail]);

/** Where a step stands in the programme; its details stay in the order of the sheet, numbers by size. */
function compareColumns(a: CoverageColumn, b: CoverageColumn): number {
  const place = ({ programme }: CoverageColumn) =>
    PROGRAMME_IDS.findIndex((id) => id === programme);
  const sizes = Number(a.detail) - Number(b.detail);
  return place(a) - place(b) || (Number.isFinite(sizes) ? sizes : 0);
}

/**
 * Chains against everything that is planned or was recorded: what is there, and what is missing.
 * @param chainIds in the order in which they shall stand
 * @param planned lines of the run sheet
 */
export function coverageOf(
  chainIds: readonly string[],
  planned: readonly Covered[],
  takes: readonly Covered[],
): Coverage {
  const columns = new Map<string, CoverageColumn>();
  for (const one of [...planned, ...takes]) {
    const { sourceId, programme, detail } = one;
    if (!columns.has(keyOf(one))) columns.set(keyOf(one), { sourceId, programme, detail });
  }
  const known = [...columns.values()].sort(compareColumns);
  const cellKey = (chainId: string, column: CoverageColumn) => `${chainId} ${keyOf(column)}`;
  const countOf = (all: readonly Covered[]) => {
    const counts = new Map<string, number>();
    for (const one of all) {
      const key = cellKey(one.chainId, one);
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    return (key: string) => counts.get(key) ?? 0;
  };
  const [asked, there] = [countOf(planned), countOf(takes)];
  const spokenOf = new Set(planned.map(keyOf));
  const rows = chainIds.map((chainId) => ({
    chainId,
    cells: known.map((column): CoverageCell => {
      const key = cellKey(chainId, column);
      return { takes: there(key), wanted: spokenOf.has(keyOf(column)) ? asked(key) : 1 };
    }),
  }));
  const gaps = rows.reduce(
    (sum, { cells }) =>
      sum + cells.reduce((few, cell) => few + Math.max(0, cell.wanted - cell.takes), 0),
    0,
  );
  return { columns: known, rows, gaps };
}
