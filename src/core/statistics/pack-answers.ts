import Papa from 'papaparse';
import { COLUMNS } from './results-file';
import { columnPositions, isBlank, readCsvTable, refuse, refuseRagged } from './csv-table';

const REQUIRED = ['listener', 'first', 'second', 'choice'] as const;
const OPTIONAL = ['trial', 'remark'] as const;
const TIE = 'tie';

/** As it is compared: people write code words in small letters. */
const plain = (word: string) => word.trim().toLowerCase();

/**
 * Opens the answers of a blind pack: its sheet (docs/formats.md) with chains in place of code words, as a results file.
 * A row without a choice stays without an answer; one without a number of its trial takes that of its row.
 * @param sheet its bytes
 * @param words chain of each code word, from the key
 * @throws ResultsFileError that names the row, and what is in it
 */
export function openPackAnswers(sheet: Uint8Array, words: ReadonlyMap<string, string>): Uint8Array {
  const chains = new Map([...words].map(([word, chain]) => [plain(word), chain]));
  const table = readCsvTable(sheet, REQUIRED);
  const at = columnPositions<(typeof REQUIRED)[number] | (typeof OPTIONAL)[number]>(
    table.header,
    REQUIRED,
    OPTIONAL,
  );
  const rows = table.records.map((record) => {
    const { row, fields } = record;
    if (isBlank(fields)) return COLUMNS.map(() => '');
    refuseRagged(table.header, record);
    const get = (column: keyof typeof at) => (at[column] < 0 ? '' : fields[at[column]]!);
    const chainOf = (column: 'first' | 'second') => {
      const word = get(column);
      if (word === '') refuse(row, `${column} is empty`);
      return chains.get(plain(word)) ?? refuse(row, `no clip of this pack is called "${word}"`);
    };
    const [first, second] = [chainOf('first'), chainOf('second')];
    const choice = plain(get('choice'));
    const sides = [plain(get('first')), plain(get('second')), TIE, ''];
    const side = sides.indexOf(choice);
    if (side < 0) {
      refuse(row, `the choice "${get('choice')}" is none of the two words, nor "${TIE}"`);
    }
    const response = ['a', 'b', TIE, ''][side]!;
    const listener = get('listener') || refuse(row, 'listener is empty');
    const trial = get('trial') || `row ${row}`;
    return [listener, '', '', trial, 'pair', first, second, 'a', response, '', ''];
  });
  return new TextEncoder().encode(Papa.unparse([COLUMNS, ...rows]));
}
