import pg from 'pg';
import { z } from 'zod';
import type { Tx } from './database';

/** A row as JSON has it. */
export type CarriedRow = Record<string, unknown>;

/**
 * What goes along of a table when a comparison moves to another bank, and how it is told from what belongs to others.
 * Ids stay as they are, as seals name them; sound and the comparison itself get those of the other bank.
 */
export interface CarriedTable {
  table: string;
  /** Which of its rows are a comparison's, $1 being the comparison, in the words of a WHERE. */
  of: string;
  /** Columns that stay behind. */
  leaves?: readonly string[];
  /** Columns with ids of sound, and columns of JSON that hold such ids as `audioId`. */
  sounds?: readonly string[];
  soundsWithin?: readonly string[];
  /** Column with a name that must be free here; one that is taken gets a word more. */
  named?: string;
  /** Rows that others may lean on as well, and that may stay by themselves. */
  shared?: boolean;
  /** Columns with accounts. */
  accounts?: readonly string[];
  /** Column with the item of gear that a row is about: of gear that the other bank has already nothing is taken. */
  gear?: string;
  /** What each column of JSON holds. */
  shapes?: Readonly<Record<string, z.ZodType>>;
  /** Columns that get another value in the other bank. */
  anew?: Readonly<Record<string, () => string>>;
}

const name = (identifier: string) => pg.escapeIdentifier(identifier);
const READ_AT_ONCE = 500;

/** Rows of a comparison as JSON, some at a time. */
export async function* carriedRows(
  tx: Tx,
  { table, of, leaves = [] }: CarriedTable,
  comparisonId: string,
): AsyncGenerator<string> {
  await tx.rows(
    `DECLARE carried NO SCROLL CURSOR FOR
     SELECT (to_jsonb(one) - $2::text[])::text AS row FROM ${name(table)} AS one WHERE ${of}`,
    [comparisonId, leaves],
  );
  for (;;) {
    const rows = await tx.rows<{ row: string }>(`FETCH ${READ_AT_ONCE} FROM carried`);
    for (const { row } of rows) yield row;
    if (rows.length < READ_AT_ONCE) break;
  }
  await tx.rows('CLOSE carried');
}

const column = (of: readonly CarriedTable[], columns: (one: CarriedTable) => readonly string[]) =>
  of.flatMap((one) =>
    columns(one).map(
      (each) => `SELECT ${name(each)} AS id FROM ${name(one.table)} WHERE ${one.of}`,
    ),
  );

/** Accounts that rows of a comparison name. */
export async function carriedAccounts(
  tx: Tx,
  tables: readonly CarriedTable[],
  comparisonId: string,
): Promise<{ id: string; name: string }[]> {
  const named = column(tables, ({ accounts = [] }) => accounts).join(' UNION ');
  return tx.rows<{ id: string; name: string }>(
    `SELECT id, name FROM account WHERE id IN (${named}) ORDER BY name`,
    [comparisonId],
  );
}

/** Sound that rows of a comparison have. */
export async function carriedSounds(
  tx: Tx,
  tables: readonly CarriedTable[],
  comparisonId: string,
): Promise<{ id: number; sha256: string; bytes: number }[]> {
  const heard = column(tables, ({ sounds = [] }) => sounds).join(' UNION ');
  return tx.rows<{ id: number; sha256: string; bytes: number }>(
    `SELECT id, sha256, byte_length AS bytes FROM audio WHERE id IN (${heard}) AND sha256 IS NOT NULL ORDER BY id`,
    [comparisonId],
  );
}

/** What is put in does not fit; the sentence says what. */
export class CarriedError extends Error {
  override name = 'CarriedError';
}

/** What rows of elsewhere are read with. */
export interface Arriving {
  comparisonId: string;
  /** The studio that they come to. */
  ownerId: string;
  /** Ids of sound here by those of there; accounts likewise. */
  sounds: ReadonlyMap<number, number>;
  accounts: ReadonlyMap<string, string>;
  /** Gear that this bank has already. */
  knownGear: ReadonlySet<string>;
}

function soundsSet(value: unknown, sounds: ReadonlyMap<number, number>): unknown {
  if (Array.isArray(value)) return value.map((one) => soundsSet(one, sounds));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, one]: [string, unknown]) => [
      key,
      // 0 is no sound of any bank: what it was made of did not come along.
      key === 'audioId' ? (sounds.get(Number(one)) ?? 0) : soundsSet(one, sounds),
    ]),
  );
}

/** A row as it stands in this bank; null for what is not taken. @throws CarriedError */
export function arrived(table: CarriedTable, row: CarriedRow, to: Arriving): CarriedRow | null {
  const {
    leaves = [],
    sounds = [],
    soundsWithin = [],
    accounts = [],
    gear,
    shapes = {},
    anew = {},
  } = table;
  if (gear !== undefined && to.knownGear.has(String(row[gear]))) return null;
  const made: CarriedRow = { ...row };
  for (const one of leaves) delete made[one];
  if ('comparison_id' in made) made.comparison_id = to.comparisonId;
  if ('owner_id' in made) made.owner_id = to.ownerId;
  for (const one of sounds) {
    const id = to.sounds.get(Number(made[one]));
    if (id === undefined) throw new CarriedError(`sound that ${table.table} has is not in it`);
    made[one] = id;
  }
  for (const one of accounts) {
    if (made[one] === null) continue;
    const there = made[one];
    const id = typeof there === 'string' ? to.accounts.get(there) : undefined;
    if (id === undefined) throw new CarriedError(`somebody whom ${table.table} names is not in it`);
    made[one] = id;
  }
  for (const one of soundsWithin) made[one] = soundsSet(made[one], to.sounds);
  for (const [one, value] of Object.entries(anew)) made[one] = value();
  for (const [one, shape] of Object.entries(shapes)) {
    if (made[one] === null || made[one] === undefined) continue;
    if (!shape.safeParse(made[one]).success) {
      throw new CarriedError(`“${one}” of ${table.table} is not what this version reads`);
    }
  }
  return made;
}

/** Puts rows into a table; columns that they do not name get what they have by default. @throws CarriedError */
export async function putRows(
  tx: Tx,
  { table }: CarriedTable,
  rows: readonly CarriedRow[],
): Promise<void> {
  const [first] = rows;
  if (!first) return;
  const columns = Object.keys(first);
  const known = await tx.rows<{ name: string }>(
    `SELECT attname AS name FROM pg_attribute WHERE attrelid = $1::regclass AND attnum > 0 AND NOT attisdropped`,
    [table],
  );
  const strange = columns.find((one) => !known.some((column) => column.name === one));
  if (strange !== undefined) {
    throw new CarriedError(`${table} of this version has no “${strange.slice(0, 60)}”`);
  }
  const list = columns.map(name).join(', ');
  await tx.rows(
    `INSERT INTO ${name(table)} (${list}) SELECT ${list} FROM jsonb_populate_recordset(NULL::${name(table)}, $1::jsonb)`,
    [JSON.stringify(rows)],
  );
}

/** How many rows of a table are a comparison's, without those about gear that was there before. */
export async function countCarried(
  tx: Tx,
  { table, of, gear }: CarriedTable,
  comparisonId: string,
  knownGear: ReadonlySet<string>,
): Promise<number> {
  const apart =
    gear === undefined ? '' : `AND (${name(gear)} IS NULL OR ${name(gear)} <> ALL($2::uuid[]))`;
  const [row] = await tx.rows<{ n: number }>(
    `SELECT count(*)::int AS n FROM ${name(table)} WHERE (${of}) ${apart}`,
    gear === undefined ? [comparisonId] : [comparisonId, [...knownGear]],
  );
  return row?.n ?? 0;
}

/** The first table whose rows lean on rows of another comparison, or null. */
export async function leaningElsewhere(
  tx: Tx,
  tables: readonly CarriedTable[],
  comparisonId: string,
): Promise<string | null> {
  const of = new Map(tables.map((one) => [one.table, one.of]));
  const links = await tx.rows<{ child: string; parent: string; own: string[]; others: string[] }>(
    `SELECT child.relname AS child, parent.relname AS parent,
       (SELECT array_agg(attname::text ORDER BY at) FROM unnest(conkey) WITH ORDINALITY AS key(n, at) JOIN pg_attribute ON attrelid = conrelid AND attnum = n) AS own,
       (SELECT array_agg(attname::text ORDER BY at) FROM unnest(confkey) WITH ORDINALITY AS key(n, at) JOIN pg_attribute ON attrelid = confrelid AND attnum = n) AS others
     FROM pg_constraint JOIN pg_class AS child ON child.oid = conrelid JOIN pg_class AS parent ON parent.oid = confrelid
     WHERE contype = 'f' AND conrelid = ANY($1::text[]::regclass[]) AND confrelid = ANY($1::text[]::regclass[])`,
    [[...of.keys()]],
  );
  for (const { child, parent, own, others } of links) {
    const set = own.map((one) => `child.${name(one)} IS NOT NULL`).join(' AND ');
    const same = own
      .map((one, i) => `parent.${name(others[i]!)} = child.${name(one)}`)
      .join(' AND ');
    const [stray] = await tx.rows(
      `SELECT 1 FROM (SELECT * FROM ${name(child)} WHERE ${of.get(child)}) AS child
       WHERE ${set} AND NOT EXISTS (SELECT 1 FROM (SELECT * FROM ${name(parent)} WHERE ${of.get(parent)}) AS parent WHERE ${same}) LIMIT 1`,
      [comparisonId],
    );
    if (stray) return child;
  }
  return null;
}
