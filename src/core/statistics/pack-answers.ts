import Papa from 'papaparse';
import { COLUMNS } from './results-file';
import {
  columnPositions,
  isBlank,
  readCsvTable,
  refuse,
  refuseRagged,
  ResultsFileError,
} from './csv-table';

const REQUIRED = ['listener', 'first', 'second', 'choice'] as const;
const OPTIONAL = ['trial', 'remark'] as const;
type Column = (typeof REQUIRED)[number] | (typeof OPTIONAL)[number];
const TIE = 'tie';

/** As it is compared: people write code words in small letters. */
const plain = (word: string) => word.trim().toLowerCase();

/** One line of an answer sheet, with chains in place of code words. */
export interface PackAnswer {
  /** Of the sheet; its header is row 1. */
  row: number;
  listener: string;
  trial: string;
  first: string;
  second: string;
  /** Null where nothing was chosen. */
  response: 'first' | 'second' | 'tie' | null;
  remark: string;
}

/** Rows of a sheet, each read when it is asked for: null for an empty one. */
function rowsOf(
  sheet: Uint8Array,
  words: ReadonlyMap<string, string>,
): (() => PackAnswer | null)[] {
  const chains = new Map([...words].map(([word, chain]) => [plain(word), chain]));
  const table = readCsvTable(sheet, REQUIRED);
  const at = columnPositions<Column>(table.header, REQUIRED, OPTIONAL);
  return table.records.map((record) => () => {
    const { row, fields } = record;
    if (isBlank(fields)) return null;
    refuseRagged(table.header, record);
    const get = (column: Column) => (at[column] < 0 ? '' : fields[at[column]]!.trim());
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
    return {
      row,
      listener: get('listener') || refuse(row, 'listener is empty'),
      trial: get('trial') || `row ${row}`,
      first,
      second,
      response: (['first', 'second', 'tie', null] as const)[side]!,
      remark: get('remark'),
    };
  });
}

/**
 * Opens the answers of a blind pack: its sheet (docs/formats.md) with chains in place of code words, as a results file.
 * A row without a choice stays without an answer; one without a number of its trial takes that of its row.
 * @param sheet its bytes
 * @param words chain of each code word, from the key
 * @throws ResultsFileError that names the row, and what is in it
 */
export function openPackAnswers(sheet: Uint8Array, words: ReadonlyMap<string, string>): Uint8Array {
  const sides = { first: 'a', second: 'b', tie: TIE } as const;
  const rows = rowsOf(sheet, words).map((read) => {
    const answer = read();
    if (!answer) return COLUMNS.map(() => '');
    const { listener, trial, first, second, response } = answer;
    const said = response === null ? '' : sides[response];
    return [listener, '', '', trial, 'pair', first, second, 'a', said, '', ''];
  });
  return new TextEncoder().encode(Papa.unparse([COLUMNS, ...rows]));
}

/** One of several sheets of the same pack, by the name of its file. */
export interface AnswerSheet {
  name: string;
  bytes: Uint8Array;
}

/** What several sheets of one pack hold together. */
export interface GatheredAnswers {
  answers: (PackAnswer & { sheet: string; response: 'first' | 'second' | 'tie' })[];
  skipped: { blank: number; missing: number; duplicate: number };
  /** Every row that cannot be read, and why; sheets that are none have one without a row of their own. */
  faults: { sheet: string; message: string }[];
}

/**
 * Reads the sheets that came back of one pack, all faults at once. Rows without a choice, and rows that repeat an
 * earlier one, are left out and counted; two answers to one trial are a fault.
 * @param sameListener the name by which a listener is known, so that one who wrote it another way stays one
 */
export function gatherPackAnswers(
  sheets: readonly AnswerSheet[],
  words: ReadonlyMap<string, string>,
  sameListener: (name: string) => string,
): GatheredAnswers {
  const gathered: GatheredAnswers = {
    answers: [],
    skipped: { blank: 0, missing: 0, duplicate: 0 },
    faults: [],
  };
  const { answers, skipped, faults } = gathered;
  const seen = new Map<string, PackAnswer['response']>();
  for (const { name: sheet, bytes } of sheets) {
    const guarded = <T>(work: () => T): T | undefined => {
      try {
        return work();
      } catch (error) {
        if (!(error instanceof ResultsFileError)) throw error;
        faults.push({ sheet, message: error.message });
        return undefined;
      }
    };
    for (const read of guarded(() => rowsOf(bytes, words)) ?? []) {
      const answer = guarded(read);
      if (answer === undefined) continue;
      if (answer === null) skipped.blank++;
      else if (answer.response === null) skipped.missing++;
      else {
        const { row, listener, trial, first, second, response } = answer;
        guarded(() => {
          if (first === second) refuse(row, 'first and second are the same clip');
          const key = JSON.stringify([sameListener(listener), trial, first, second]);
          const earlier = seen.get(key);
          if (earlier === response) skipped.duplicate++;
          else if (earlier !== undefined) refuse(row, 'contradicts an earlier row of this trial');
          else {
            seen.set(key, response);
            answers.push({ ...answer, response, sheet });
          }
        });
      }
    }
  }
  return gathered;
}
