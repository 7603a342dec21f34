import Papa from 'papaparse';

export interface Warning {
  code: string;
  section: 'input' | 'pair' | 'rating' | 'audibility' | 'attributes';
  message: string;
  /** Up to ten row numbers; the header is row 1. */
  rows?: number[];
}

const TASKS = ['pair', 'rating', 'duo-trio', 'triangle', 'two-interval', 'attribute'] as const;
export type ResultTask = (typeof TASKS)[number];

/** One answer as it stands in a results file, checked but not interpreted. */
export interface ResultRow {
  row: number;
  listener: string;
  source: string;
  context: string;
  trial: string;
  task: ResultTask;
  chain: string;
  chainB: string;
  first: 'a' | 'b' | '';
  /** pair: a, b, tie; rating: the number; attribute: ticked words; else ''. */
  response: string;
  replicate: number;
  correct: '' | '0' | '1';
}

export interface ResultsFile {
  rows: ResultRow[];
  skipped: { blank: number; missing: number; duplicate: number };
  warnings: Warning[];
}

export const COLUMNS = [
  'listener',
  'source',
  'context',
  'trial',
  'task',
  'chain',
  'chain_b',
  'first',
  'response',
  'replicate',
  'correct',
] as const;
type Column = (typeof COLUMNS)[number];

/** A results file that must not be analysed; the message names the row where there is one. */
export class ResultsFileError extends Error {
  override name = 'ResultsFileError';
}

const NUMBER = /^-?\d+(\.\d+)?$/;
const ROWS_SHOWN = 10;

/**
 * Reads a results file (UTF-8, RFC 4180, columns by name). Nothing is guessed: what is outside the
 * format is refused with its row, what is merely untidy is skipped and reported.
 * @throws ResultsFileError
 */
export function parseResultsFile(bytes: Uint8Array): ResultsFile {
  if (bytes.length === 0) throw new ResultsFileError('the file is empty');
  const text = decodeUtf8(bytes);
  if (text.trim() === '') throw new ResultsFileError('the file is empty');
  const { records, delimiter } = readRecords(text);
  const warnings = new WarningList();
  if (delimiter === ';') {
    warnings.add('semicolon-delimiter', 'the file is separated by semicolons');
  }
  const header = records[0].map(trim);
  const position = columnPositions(header);
  const extra = header.filter((name) => !COLUMNS.includes(name as Column));
  if (extra.length > 0) {
    warnings.add('extra-column', `columns not known are ignored: ${extra.join(', ')}`);
  }
  const skipped = { blank: 0, missing: 0, duplicate: 0 };
  const seen = new Map<string, string>();
  const rows: ResultRow[] = [];
  for (let i = 1; i < records.length; i++) {
    const fields = records[i].map(trim);
    const number = i + 1;
    if (fields.every((field) => field === '')) {
      skipped.blank++;
      warnings.add('blank-row', 'empty rows are skipped', number);
      continue;
    }
    if (fields.length !== header.length) {
      refuse(number, `${fields.length} fields, the header has ${header.length}`);
    }
    const get = (column: Column) => fields[position[column]];
    const row = checkRow(number, get);
    if (isMissing(row)) {
      skipped.missing++;
      warnings.add('missing-answer', 'rows without an answer are skipped', number);
      continue;
    }
    const { key, content } = identity(row);
    const earlier = seen.get(key);
    if (earlier === content) {
      skipped.duplicate++;
      warnings.add('duplicate-row', 'rows that repeat an earlier one are skipped', number);
      continue;
    }
    if (earlier !== undefined) refuse(number, 'contradicts an earlier row of the same trial');
    seen.set(key, content);
    rows.push(row);
  }
  if (rows.length === 0) throw new ResultsFileError('there are no answer rows');
  return { rows, skipped, warnings: warnings.entries };
}

function refuse(row: number, what: string): never {
  throw new ResultsFileError(`row ${row}: ${what}`);
}

class WarningList {
  readonly entries: Warning[] = [];

  add(code: string, message: string, row?: number): void {
    let entry = this.entries.find((warning) => warning.code === code);
    if (!entry) this.entries.push((entry = { code, section: 'input', message }));
    if (row === undefined) return;
    entry.rows ??= [];
    if (entry.rows.length < ROWS_SHOWN) entry.rows.push(row);
  }
}

function trim(field: string): string {
  return field.replace(/^[ \t]+|[ \t]+$/g, '');
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

function readRecords(text: string): { records: string[][]; delimiter: ',' | ';' } {
  for (const delimiter of [',', ';'] as const) {
    const headerOnly = Papa.parse<string[]>(text, { delimiter, preview: 1 }).data[0] ?? [];
    const names = headerOnly.map(trim);
    const complete = COLUMNS.every((column) => names.includes(column));
    if (delimiter === ';' && !complete) break;
    if (!complete) continue;
    return { records: parse(text, delimiter), delimiter };
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

function columnPositions(header: readonly string[]): Record<Column, number> {
  const entries = COLUMNS.map((column) => {
    const first = header.indexOf(column);
    if (first < 0) refuse(1, `the column ${column} is missing`);
    if (header.indexOf(column, first + 1) >= 0) refuse(1, `the column ${column} is there twice`);
    return [column, first];
  });
  return Object.fromEntries(entries) as Record<Column, number>;
}

const PAIRED: readonly ResultTask[] = ['pair', 'duo-trio', 'triangle', 'two-interval'];
const FORCED: readonly ResultTask[] = ['duo-trio', 'triangle', 'two-interval'];

function checkRow(number: number, get: (column: Column) => string): ResultRow {
  const must = (column: Column) => get(column) || refuse(number, `${column} is empty`);
  const task = must('task') as ResultTask;
  if (!TASKS.includes(task)) refuse(number, `the task "${task}" is not known`);
  const row: ResultRow = {
    row: number,
    listener: must('listener'),
    source: get('source'),
    context: get('context'),
    trial: must('trial'),
    task,
    chain: must('chain'),
    chainB: '',
    first: '',
    response: '',
    replicate: replicateOf(number, get('replicate')),
    correct: '',
  };
  if (PAIRED.includes(task)) {
    row.chainB = must('chain_b');
    if (row.chainB === row.chain) refuse(number, 'chain and chain_b are the same');
  }
  if (task === 'pair') {
    row.first = oneOf(number, 'first', get('first'), ['a', 'b', '']);
    row.response = oneOf(number, 'response', get('response'), ['a', 'b', 'tie', '', 'NA']);
  } else if (task === 'rating') {
    row.response = get('response');
    if (row.response !== '' && row.response !== 'NA') {
      const value = Number(row.response);
      if (!NUMBER.test(row.response) || value < 0 || value > 100) {
        refuse(number, `the rating "${row.response}" is not a number from 0 to 100`);
      }
    }
  } else if (task === 'attribute') {
    row.response = get('response');
  } else {
    row.correct = oneOf(number, 'correct', get('correct'), ['0', '1', '', 'NA']) as '0' | '1';
  }
  return row;
}

function oneOf<T extends string>(
  number: number,
  column: string,
  value: string,
  allowed: readonly T[],
): T {
  if (allowed.includes(value as T)) return value as T;
  const shown = allowed.filter((v) => v !== '' && v !== 'NA').join(', ');
  return refuse(number, `${column} is "${value}"; it can be ${shown}`);
}

function replicateOf(number: number, text: string): number {
  if (text === '') return 1;
  const value = Number(text);
  if (!NUMBER.test(text) || !Number.isInteger(value) || value < 1) {
    refuse(number, `the replicate "${text}" is not a positive whole number`);
  }
  return value;
}

function isMissing(row: ResultRow): boolean {
  if (row.task === 'attribute') return row.response === 'NA';
  const answer: string = FORCED.includes(row.task) ? row.correct : row.response;
  return answer === '' || answer === 'NA';
}

/** What names a trial's answer, and what it says; the number of a rating counts, not its digits. */
function identity(row: ResultRow): { key: string; content: string } {
  const { listener, source, context, trial, task, chain, chainB, replicate } = row;
  const response = task === 'rating' ? String(Number(row.response)) : row.response;
  return {
    key: JSON.stringify([listener, source, context, trial, task, chain, chainB, replicate]),
    content: JSON.stringify([row.first, response, row.correct]),
  };
}
