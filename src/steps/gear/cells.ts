import { PATTERN_FIGURES, SPEC_FIELDS, type SpecField } from '@/core/chain/specs';
import {
  type DecimalSign,
  numberFault,
  readingOf,
  readNumber,
  unmistakable,
} from '@/core/text/numbers';
import { FURTHER_PRICES, PRICE, PRICE_HEADERS, readCents, withPrice } from './price-cells';
import { type Gear, type GearDraft, gearDraft, SCORES } from './schema';

/** A cell that cannot be taken as it stands. */
export interface CellFault {
  column: string;
  value: string;
  message: string;
}

type Loose = Record<string, unknown> & {
  specs: Record<string, unknown>;
  scores: Record<string, unknown>;
};

export interface Column {
  header: string;
  /** Other spellings that are understood. */
  also?: string[];
  write(gear: Gear, nameOf: (id: string) => string): string;
  /** Puts the cell into the draft; returns what is wrong with it. */
  read(cell: string, draft: Loose, decimal: DecimalSign | null): string | null;
}

const LIST_MARK = '; ';
const listOf = (cell: string) =>
  cell
    .split(/[;|]/)
    .map((part) => part.trim())
    .filter(Boolean);

function textColumn(name: 'name' | 'kind' | 'maker' | 'ownership' | 'condition' | 'notes'): Column {
  return {
    header: name,
    write: (gear) => gear[name],
    read: (cell, draft) => {
      const closed = name === 'kind' || name === 'ownership';
      draft[name] = closed ? cell.toLowerCase() : cell;
      if (name === 'ownership' && cell === '') draft[name] = 'owned';
      return null;
    },
  };
}

function numberInto(put: (value: number | undefined) => void) {
  return (cell: string, decimal: DecimalSign | null): string | null => {
    if (cell === '') {
      put(undefined);
      return null;
    }
    const reading = readingOf(cell, decimal);
    if ('fault' in reading) return reading.fault;
    put(reading.value);
    return null;
  };
}

export function headerOf({ label, unit }: SpecField): string {
  return unit ? `${label} (${unit})` : label;
}

function specColumn(field: SpecField): Column {
  const { name, form } = field;
  const base = { header: headerOf(field), also: [field.label] };
  const shown = (gear: Gear) => {
    const value = gear.specs[name];
    if (typeof value === 'number') return unmistakable(value);
    return typeof value === 'string' ? value : '';
  };
  switch (form) {
    case 'number':
      return {
        ...base,
        write: shown,
        read: (cell, { specs }, decimal) => numberInto((x) => (specs[name] = x))(cell, decimal),
      };
    case 'choice':
      return {
        ...base,
        write: shown,
        read: (cell, { specs }) => {
          const known = field.choices.find((choice) => choice.toLowerCase() === cell.toLowerCase());
          specs[name] = known ?? (cell === '' ? undefined : cell);
          return null;
        },
      };
    case 'numbers':
    case 'choices':
      return {
        ...base,
        write: (gear) =>
          ((gear.specs[name] as (string | number)[] | undefined) ?? [])
            .map((one) => (typeof one === 'number' ? unmistakable(one) : one))
            .join(LIST_MARK),
        read: (cell, { specs }, decimal) => {
          const parts = listOf(cell);
          if (form === 'choices') {
            specs[name] = parts.length > 0 ? parts.map((part) => part.toLowerCase()) : undefined;
            return null;
          }
          const fault = parts.map((part) => numberFault(part, decimal)).find(Boolean);
          if (fault) return fault;
          specs[name] =
            parts.length > 0 ? parts.map((part) => readNumber(part, decimal)) : undefined;
          return null;
        },
      };
    case 'patterns':
      return {
        ...base,
        also: ['per pattern'],
        write: (gear) =>
          (gear.specs.perPattern ?? [])
            .map((one) => {
              const figures = PATTERN_FIGURES.map((figure) => {
                const value = one[figure];
                return value === undefined ? '' : unmistakable(value);
              });
              return `${one.pattern}=${figures.join('/')}`;
            })
            .join(LIST_MARK),
        read: (cell, { specs }, decimal) => {
          const found = listOf(cell).map((part) => {
            const [pattern = '', figures = ''] = part.split('=');
            const given = figures.split('/').map((figure) => figure.trim());
            const values = PATTERN_FIGURES.flatMap((figure, i) =>
              given[i] ? [[figure, readNumber(given[i], decimal)] as const] : [],
            );
            const bad =
              values.length === 0 ||
              given.length > PATTERN_FIGURES.length ||
              values.some(([, value]) => value === null);
            return { pattern: pattern.trim().toLowerCase(), values, bad };
          });
          const odd = found.find(({ bad }) => bad);
          if (odd) {
            return `Write patterns as “omni=-34/14/130” (sensitivity, self-noise, max SPL; any may be left out); “${odd.pattern}” cannot be read.`;
          }
          specs.perPattern =
            found.length > 0
              ? found.map(({ pattern, values }) => ({ pattern, ...Object.fromEntries(values) }))
              : undefined;
          return null;
        },
      };
    case 'knob':
      return {
        ...base,
        write: (gear) =>
          (gear.specs.knob ?? [])
            .map(({ position, gainDb }) => `${position}=${unmistakable(gainDb)}`)
            .join(LIST_MARK),
        read: (cell, { specs }, decimal) => {
          const knob = listOf(cell).map((part) => {
            const [position, gain] = part.split('=') as [string, string];
            return { position: position.trim(), gainDb: readNumber(gain ?? '', decimal) };
          });
          const bad = knob.find(({ gainDb }) => gainDb === null);
          if (bad) return `Write knob positions as “3=25”; “${bad.position}” has no gain.`;
          specs.knob = knob.length > 0 ? knob : undefined;
          return null;
        },
      };
  }
}

export const ACCESSORIES = 'accessories';
export const ATTRIBUTES = 'attributes';

/** Everything that is written about an item, as text: in files, when pasted, and in the form. */
export const COLUMNS: readonly Column[] = [
  textColumn('name'),
  textColumn('kind'),
  textColumn('maker'),
  {
    header: PRICE,
    also: ['price'],
    write: ({ priceCents }) => (priceCents === null ? '' : String(priceCents / 100)),
    read: (cell, draft, decimal) => {
      const reading = readCents(cell, decimal);
      if ('fault' in reading) return reading.fault;
      const priceCents = reading.value ?? null;
      // Another price than what a quotation gave: it does not follow from that any more.
      if (draft.prices && draft.priceCents !== priceCents) {
        draft.prices = withPrice(draft.prices, 'quoted', undefined);
      }
      draft.priceCents = priceCents;
      return null;
    },
  },
  ...FURTHER_PRICES,
  textColumn('ownership'),
  textColumn('condition'),
  textColumn('notes'),
  {
    header: ACCESSORIES,
    write: ({ accessoryIds }, nameOf) => accessoryIds.map(nameOf).sort().join(LIST_MARK),
    read: (cell, draft) => {
      draft.accessories = listOf(cell);
      return null;
    },
  },
  {
    header: ATTRIBUTES,
    also: ['own attributes'],
    write: ({ attributes = {} }) =>
      Object.entries(attributes)
        .map(([name, value]) => `${name}: ${value}`)
        .join(LIST_MARK),
    read: (cell, draft) => {
      const pairs = cell
        .split(/[;|\n]/)
        .map((part) => part.trim())
        .filter(Boolean)
        .map((part) => /^([^:]*):(.*)$/s.exec(part) ?? part);
      const bare = pairs.find((pair) => typeof pair === 'string');
      if (bare !== undefined)
        return `Write attributes as “weight: 350 g”; “${String(bare)}” has no colon.`;
      const named = pairs.map(([, name, value]) => [name!.trim(), value!.trim()] as const);
      const twice = named.find(
        ([name], i) => named.findIndex(([other]) => other.toLowerCase() === name.toLowerCase()) < i,
      );
      if (twice) return `The attribute “${twice[0]}” stands twice.`;
      draft.attributes = Object.fromEntries(named);
      return null;
    },
  },
  ...SCORES.map((score): Column => ({
    header: `mark: ${score}`,
    also: [score],
    write: ({ scores }) => String(scores[score] ?? ''),
    read: (cell, { scores }, decimal) => numberInto((x) => (scores[score] = x))(cell, decimal),
  })),
  ...SPEC_FIELDS.map(specColumn),
];

/** Sensitivity in dB re 1 V/Pa, to a hundredth, of mV/Pa. */
export const fromMillivolts = (mv: number) => Math.round(100 * 20 * Math.log10(mv / 1000)) / 100;

/** Read, not written: the other way in which sensitivity is stated. */
const MILLIVOLTS: Column = {
  header: 'sensitivity (mV/Pa)',
  write: () => '',
  read: (cell, { specs }, decimal) => {
    const problem = numberInto((x) => {
      if (x !== undefined) specs.sensitivityDb = fromMillivolts(x);
    })(cell, decimal);
    return (
      problem ??
      (Number.isNaN(specs.sensitivityDb) ? 'A sensitivity in mV/Pa is above zero.' : null)
    );
  },
};

export const plain = (header: string) => header.trim().toLowerCase().replace(/\s+/g, ' ');

export const BY_HEADER = new Map(
  [...COLUMNS, MILLIVOLTS].flatMap((column) =>
    [column.header, ...(column.also ?? [])].map((header) => [plain(header), column] as const),
  ),
);

const EMPTY: Omit<GearItemDraft, 'name' | 'kind'> = {
  maker: '',
  specs: {},
  priceCents: null,
  ownership: 'owned',
  condition: '',
  notes: '',
  scores: {},
};

/** Which column an issue of the shape belongs to. */
function columnOf(path: readonly PropertyKey[]): string {
  const [first, second] = path.map(String) as [string, string];
  const spec = SPEC_FIELDS.find(({ name }) => first === 'specs' && name === second);
  if (spec) return headerOf(spec);
  if (first === 'scores') return `mark: ${second}`;
  if (first === 'attributes') return ATTRIBUTES;
  if (first === 'prices') return PRICE_HEADERS[second as keyof typeof PRICE_HEADERS] ?? PRICE;
  return first === 'priceCents' ? PRICE : first;
}

/**
 * Makes an item out of cells. Columns that are not given leave an item as it was.
 * @param cells text by the column it belongs to
 * @param decimal the sign before decimals in the list that the cells are from, where it shows
 */
export function itemFromCells(
  cells: readonly (readonly [Column, string])[],
  old?: Gear,
  decimal: DecimalSign | null = null,
): { draft: GearItemDraft | null; accessories: string[] | null; faults: CellFault[] } {
  const faults: CellFault[] = [];
  const loose: Loose = {
    ...EMPTY,
    ...(old ? withoutAccessories(old) : {}),
    specs: { ...old?.specs },
    scores: { ...old?.scores },
  };
  const values = new Map<string, string>();
  for (const [column, cell] of cells) {
    const value = cell.trim();
    values.set(column.header, value);
    const message = column.read(value, loose, decimal);
    if (message) faults.push({ column: column.header, value, message });
  }
  const { accessories, ...rest } = loose;
  const marks = Object.entries(rest.scores).filter(([, mark]) => mark !== undefined);
  const checked = gearDraft.safeParse({
    ...rest,
    scores: Object.fromEntries(marks),
    accessoryIds: [],
  });
  if (!checked.success) {
    for (const issue of checked.error.issues) {
      const column = columnOf(issue.path);
      if (faults.some((fault) => fault.column === column)) continue;
      faults.push({ column, value: values.get(column) ?? '', message: issue.message });
    }
  }
  const named = cells.some(([column]) => column.header === ACCESSORIES);
  return {
    draft: checked.success && faults.length === 0 ? withoutAccessories(checked.data) : null,
    accessories: named ? ((accessories as string[] | undefined) ?? []) : null,
    faults,
  };
}

export type GearItemDraft = Omit<GearDraft, 'accessoryIds'>;

export function withoutAccessories(gear: GearDraft): GearItemDraft {
  const { name, kind, maker, specs, priceCents, ownership, condition, notes, scores } = gear;
  const { attributes = {}, prices = {} } = gear;
  return {
    name,
    kind,
    maker,
    specs,
    priceCents,
    prices,
    ownership,
    condition,
    notes,
    scores,
    attributes,
  };
}
