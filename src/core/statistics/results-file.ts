import Papa from 'papaparse';
import { FORMULA, unmarked } from '@/core/text/formulae';
import {
  columnPositions,
  isBlank,
  NUMBER,
  readCsvTable,
  refuse,
  refuseRagged,
  ResultsFileError,
} from './csv-table';
import type { Circumstances, Observation, Role } from './observation';
import type { Warning } from './findings';

export interface ResultsFile {
  observations: Observation[];
  skipped: { blank: number; missing: number; duplicate: number };
  warnings: Warning[];
}

/** Columns of a results file, in their usual order. */
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
/** Columns of a bank's own files, known by the first of them. */
const OWN_COLUMNS = ['control', 'louder', 'scale', 'sitting', 'part', 'passage'] as const;
type Column = (typeof COLUMNS)[number] | (typeof OWN_COLUMNS)[number];

const TASKS = ['pair', 'rating', 'duo-trio', 'triangle', 'two-interval', 'attribute'] as const;
const OWN_TASKS = [...TASKS, 'memory'] as const;
type FileTask = (typeof OWN_TASKS)[number];
const CONTROLS = ['', 'self', 'louder', 'repeat', 'told', 'sighted'] as const;
const ROWS_SHOWN = 10;
const MISSING = new Set(['', 'NA']);

/**
 * Reads a results file (docs/formats.md) into observations. Nothing is guessed: what is outside the format is refused
 * with its row, what is merely untidy is skipped and reported. A file with the column "control" is a bank's own:
 * it may hold controls and answers from memory, too.
 * @param bySitting whether a column "sitting" is part of what names an answer
 * @throws ResultsFileError
 */
export function parseResultsFile(bytes: Uint8Array, bySitting = false): ResultsFile {
  const table = readCsvTable(bytes, COLUMNS);
  const { header } = table;
  const own = header.includes('control');
  const known: Column[] = own ? [...OWN_COLUMNS] : bySitting ? ['sitting'] : [];
  const at = columnPositions<Column>(header, COLUMNS, known);
  const warnings = new WarningList();
  if (table.delimiter === ';') {
    warnings.add('semicolon-delimiter', 'the file is separated by semicolons');
  }
  const extra = header.filter((name) => !(name in at));
  if (extra.length > 0) {
    warnings.add('extra-column', `columns not known are ignored: ${extra.join(', ')}`);
  }
  const skipped = { blank: 0, missing: 0, duplicate: 0 };
  const seen = new Map<string, string>();
  const observations: Observation[] = [];
  for (const record of table.records) {
    const { row, fields } = record;
    if (isBlank(fields)) {
      skipped.blank++;
      warnings.add('blank-row', 'empty rows are skipped', row);
      continue;
    }
    refuseRagged(header, record);
    const get = (column: Column) => {
      const text = at[column] >= 0 ? fields[at[column]]! : '';
      return own ? unmarked(text) : text;
    };
    const one = readRow(row, get, own);
    if (one === null) {
      skipped.missing++;
      warnings.add('missing-answer', 'rows without an answer are skipped', row);
      continue;
    }
    const { key, content } = identity(one);
    const earlier = seen.get(key);
    if (earlier === content) {
      skipped.duplicate++;
      warnings.add('duplicate-row', 'rows that repeat an earlier one are skipped', row);
      continue;
    }
    if (earlier !== undefined) refuse(row, 'contradicts an earlier row of the same trial');
    seen.set(key, content);
    observations.push(one);
  }
  if (observations.length === 0) throw new ResultsFileError('there are no answer rows');
  return { observations, skipped, warnings: warnings.entries };
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

/** One observation, null when the row holds no answer. */
function readRow(row: number, get: (column: Column) => string, own: boolean): Observation | null {
  const must = (column: Column) => get(column) || refuse(row, `${column} is empty`);
  const task = must('task') as FileTask;
  if (!(own ? OWN_TASKS : TASKS).includes(task as never)) {
    refuse(row, `the task "${task}" is not known`);
  }
  const circumstances = {
    listener: must('listener'),
    source: get('source'),
    passage: get('passage'),
    context: get('context'),
    sitting: get('sitting'),
    part: get('part'),
    trial: must('trial'),
    replicate: replicateOf(row, get('replicate')),
  };
  const chain = must('chain');
  const control = oneOf(row, 'control', get('control'), CONTROLS);
  return readHeard(row, get, task, { ...circumstances, chain, role: control || 'judged' });
}

/** What all observations have. */
type Common = Circumstances & { chain: string; role: Role };

function readHeard(
  row: number,
  get: (column: Column) => string,
  task: FileTask,
  common: Common,
): Observation | null {
  const { chain, role } = common;
  const other = () => {
    const chainB = get('chain_b') || refuse(row, 'chain_b is empty');
    const same = role === 'self' || role === 'louder';
    if (chainB === chain && !same) refuse(row, 'chain and chain_b are the same');
    return chainB;
  };
  if (task === 'pair') {
    const chainB = other();
    const first = oneOf(row, 'first', get('first'), ['a', 'b', '']);
    const response = oneOf(row, 'response', get('response'), ['a', 'b', 'tie', '', 'NA']);
    const louder = oneOf(row, 'louder', get('louder'), ['a', 'b', '']);
    if (response === '' || response === 'NA') return null;
    return { ...common, kind: 'pair', chainB, first, response, louder };
  }
  const response = get('response');
  if (task === 'rating') {
    if (MISSING.has(response)) return null;
    const value = Number(response);
    if (!NUMBER.test(response) || value < 0 || value > 100) {
      refuse(row, `the rating "${response}" is not a number from 0 to 100`);
    }
    return { ...common, kind: 'rating', value, against: get('chain_b'), scale: get('scale') };
  }
  if (task === 'attribute') {
    if (response === 'NA') return null;
    return { ...common, kind: 'ticks', words: response === '' ? [] : response.split(';') };
  }
  const chainB = other();
  const correct = oneOf(row, 'correct', get('correct'), ['0', '1', '', 'NA']);
  if (correct === '' || correct === 'NA') return null;
  const said = { ...common, chainB, correct: correct === '1' };
  return task === 'memory' ? { ...said, kind: 'recall' } : { ...said, kind: 'forced', task };
}

function oneOf<T extends string>(
  row: number,
  column: string,
  value: string,
  allowed: readonly T[],
): T {
  if (allowed.includes(value as T)) return value as T;
  const shown = allowed.filter((v) => !MISSING.has(v)).join(', ');
  return refuse(row, `${column} is "${value}"; it can be ${shown}`);
}

function replicateOf(row: number, text: string): number {
  if (text === '') return 1;
  const value = Number(text);
  if (!NUMBER.test(text) || !Number.isInteger(value) || value < 1) {
    refuse(row, `the replicate "${text}" is not a positive whole number`);
  }
  return value;
}

const taskOf = (one: Observation): FileTask =>
  one.kind === 'forced'
    ? one.task
    : ({ pair: 'pair', rating: 'rating', recall: 'memory', ticks: 'attribute' } as const)[one.kind];

/** What names an answer, and what it says. */
function identity(one: Observation): { key: string; content: string } {
  const { listener, source, context, sitting, trial, chain, replicate, role } = one;
  const other = 'chainB' in one ? one.chainB : '';
  const key = [
    listener,
    source,
    context,
    sitting,
    trial,
    taskOf(one),
    chain,
    other,
    replicate,
    role,
  ];
  return { key: JSON.stringify(key), content: contentOf(one) };
}

/** What an answer says, in one text for each that differs. */
function contentOf(one: Observation): string {
  switch (one.kind) {
    case 'pair':
      return `${one.first} ${one.response}`;
    case 'rating':
      return String(one.value);
    case 'ticks':
      return one.words.join(';');
    case 'forced':
    case 'recall':
      return String(one.correct);
  }
}

/** The columns that depend on the task. */
function cellsOf(one: Observation) {
  const none = { chain_b: '', first: '', response: '', correct: '', louder: '', scale: '' };
  switch (one.kind) {
    case 'pair': {
      const { chainB, first, response, louder } = one;
      return { ...none, chain_b: chainB, first, response, louder };
    }
    case 'rating':
      return { ...none, chain_b: one.against, response: String(one.value), scale: one.scale };
    case 'ticks':
      return { ...none, response: one.words.join(';') };
    case 'forced':
    case 'recall':
      return { ...none, chain_b: one.chainB, correct: one.correct ? '1' : '0' };
  }
}

/**
 * Writes observations as a results file of a bank's own, which gives the same observations when it is read.
 * @param more further columns, and what stands in them for each observation; they are ignored on reading
 */
export function writeResultsFile(
  observations: readonly Observation[],
  more: { fields: readonly string[]; of: (i: number) => (string | number)[] } = {
    fields: [],
    of: () => [],
  },
): string {
  const data = observations.map((one, i) => {
    const row: Record<Column, string | number> = {
      ...one,
      ...cellsOf(one),
      task: taskOf(one),
      control: one.role === 'judged' ? '' : one.role,
    };
    return [...[...COLUMNS, ...OWN_COLUMNS].map((column) => row[column]), ...more.of(i)];
  });
  const fields = [...COLUMNS, ...OWN_COLUMNS, ...more.fields];
  return Papa.unparse({ fields, data }, { escapeFormulae: FORMULA, newline: '\r\n' });
}
