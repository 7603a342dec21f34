import { columnPositions, isBlank, NUMBER, readCsvTable, refuse, refuseRagged } from './csv-table';

/** What a chain is made of, and what it costs; '' and null where that is not known. */
export interface ChainMake {
  microphone: string;
  preamp: string;
  price: number | null;
}
/** By chain. */
export type ChainMakes = ReadonlyMap<string, ChainMake>;

/** Whether microphone and preamp of a chain are known. */
export function bothKnown(made: ChainMakes, chain: string): boolean {
  const own = made.get(chain);
  return own !== undefined && own.microphone !== '' && own.preamp !== '';
}

export interface ChainsFile {
  made: ChainMakes;
  /** Whether there is a column of prices at all. */
  priced: boolean;
}

/**
 * Reads a file of chains (docs/formats.md).
 * @param needed columns that must be there and filled; others may be missing or empty
 * @throws ResultsFileError
 */
export function parseChainsFile(
  bytes: Uint8Array,
  needed: readonly ('microphone' | 'preamp')[],
): ChainsFile {
  const required = ['chain', ...needed] as const;
  const table = readCsvTable(bytes, required);
  const at = columnPositions<'chain' | 'microphone' | 'preamp' | 'price'>(table.header, required, [
    'microphone',
    'preamp',
    'price',
  ]);
  const made = new Map<string, ChainMake>();
  for (const record of table.records) {
    const { row, fields } = record;
    if (isBlank(fields)) continue;
    refuseRagged(table.header, record);
    const get = (column: keyof typeof at) => (at[column] < 0 ? '' : fields[at[column]]!);
    for (const column of required) {
      if (get(column) === '') refuse(row, `${column} is empty`);
    }
    const chain = get('chain');
    if (made.has(chain)) refuse(row, `the chain "${chain}" is there twice`);
    const price = get('price');
    if (price !== '' && (!NUMBER.test(price) || Number(price) < 0)) {
      refuse(row, `the price "${price}" is not a number from 0 on`);
    }
    made.set(chain, {
      microphone: get('microphone'),
      preamp: get('preamp'),
      price: price === '' ? null : Number(price),
    });
  }
  return { made, priced: at.price >= 0 };
}
