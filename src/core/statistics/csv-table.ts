import Papa from 'papaparse';

/** A file that must not be analysed; the message names the row where there is one. */
export class ResultsFileError extends Error {
  override name = 'ResultsFileError';
}

/** A number as these files write it: no exponent, comma or hexadecimal. */
export const NUMBER = /^-?\d+(\.\d+)?$/;

export function refuse(row: number, what: string): never {
  throw new ResultsFileError(`row ${row}: ${what}`);
}

export function trimmed(field: string): string {
  return field.replace(/^[ \t]+|[ \t]+$/g, '');
}

/** Names of columns, and the records under them as they stand in the file. */
export interface CsvTable {
  header: string[];
  /** Row numbers count from the header, which is row 1. */
  records: { row: number; fields: string[] }[];
  delimiter: ',' | ';';
}

/**
 * Reads a table (UTF-8, RFC 4180, separated by commas, or by semicolons where only so the required columns are there).
 * Blank records stay; records with another number of fields than the header are refused when they are asked for.
 * @throws ResultsFileError
 */
export function readCsvTable(bytes: Uint8Array, required: readonly string[]): CsvTable {
  const text = bytes.length === 0 ? '' : decodeUtf8(bytes);
  if (text.trim() === '') throw new ResultsFileError('the file is empty');
  const { records, delimiter } = readRecords(text, required);
  const [header = [], ...rest] = records.map((fields) => fields.map(trimmed));
  return { header, records: rest.map((fields, i) => ({ row: i + 2, fields })), delimiter };
}

export const isBlank = (fields: readonly string[]) => fields.every((field) => field === '');

/** Where each column stands; −1 for an optional one that is missing. @throws ResultsFileError */
export function columnPositions<Column extends string>(
  header: readonly string[],
  required: readonly Column[],
  optional: readonly Column[] = [],
): Record<Column, number> {
  const entries = [...required, ...optional].map((column) => {
    const first = header.indexOf(column);
    if (first < 0 && required.includes(column)) refuse(1, `the column ${column} is missing`);
    if (first >= 0 && header.indexOf(column, first + 1) >= 0) {
      refuse(1, `the column ${column} is there twice`);
    }
    return [column, first];
  });
  return Object.fromEntries(entries) as Record<Column, number>;
}

/** @throws ResultsFileError when a record has not as many fields as the header */
export function refuseRagged(
  header: readonly string[],
  { row, fields }: CsvTable['records'][0],
): void {
  if (fields.length !== header.length) {
    refuse(row, `${fields.length} fields, the header has ${header.length}`);
  }
}

function decodeUtf8(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    // The longest readable beginning tells the row.
    let [good, bad] = [0, bytes.length];
    while (bad - good > 1) {
      const middle = (good + bad) >> 1;
      const decoder = new TextDecoder('utf-8', { fatal: true });
      try {
        decoder.decode(bytes.subarray(0, middle), { stream: true });
        good = middle;
      } catch {
        bad = middle;
      }
    }
    const before = new TextDecoder().decode(bytes.subarray(0, good));
    const { data } = Papa.parse<string[]>(`${before}x`, { delimiter: ',' });
    return refuse(data.length, 'the bytes are not UTF-8');
  }
}

function readRecords(
  text: string,
  required: readonly string[],
): { records: string[][]; delimiter: ',' | ';' } {
  for (const delimiter of [',', ';'] as const) {
    const headerOnly = Papa.parse<string[]>(text, { delimiter, preview: 1 }).data[0] ?? [];
    const names = headerOnly.map(trimmed);
    if (required.every((column) => names.includes(column))) {
      return { records: parse(text, delimiter), delimiter };
    }
  }
  return { records: parse(text, ','), delimiter: ',' };
}

function parse(text: string, delimiter: ',' | ';'): string[][] {
  const { data, errors } = Papa.parse<string[]>(text, { delimiter });
  const quote = errors.find((error) => error.type === 'Quotes');
  if (quote) {
    refuse(
      (quote.row ?? 0) + 1,
      quote.code === 'MissingQuotes' ? 'a quote is never closed' : 'text after a closing quote',
    );
  }
  const last = data[data.length - 1];
  if (last?.length === 1 && last[0] === '' && /[\r\n]$/.test(text)) data.pop();
  return data;
}
