import type { Db } from '../database';
import { one } from '../one';
import { KEPT, type Kept, type Nights } from './keeping';

/** A copy of the whole bank, as far as it is made. */
export interface BankCopy {
  id: string;
  /** Null for a night's own. */
  askedBy: string | null;
  askedAt: Date;
  begunAt: Date | null;
  madeAt: Date | null;
  /** Its name in the folder of copies. */
  file: string;
  bytes: number | null;
  rows: number | null;
  failed: string | null;
  removedAt: Date | null;
  testedAt: Date | null;
  testFailed: string | null;
  /** Why it did not come back, where somebody wanted it. */
  restoreFailed: string | null;
}

const COLUMNS = `bank_copy.id, account.name AS "askedBy", asked_at AS "askedAt", begun_at AS "begunAt",
  made_at AS "madeAt", file, bytes::float8 AS bytes, rows::float8 AS rows, failed, removed_at AS "removedAt",
  tested_at AS "testedAt", test_failed AS "testFailed", restore_failed AS "restoreFailed"`;
const COPIES = 'bank_copy LEFT JOIN account ON account.id = asked_by';

/** Copies that are there, are being made or failed lately; the newest first. */
export async function listCopies(db: Db, limit: number): Promise<BankCopy[]> {
  return db.rows<BankCopy>(
    `SELECT ${COLUMNS} FROM ${COPIES} WHERE removed_at IS NULL ORDER BY asked_at DESC LIMIT $1`,
    [limit],
  );
}

export async function findCopy(db: Db, id: string): Promise<BankCopy | null> {
  const [copy] = await db.rows<BankCopy>(
    `SELECT ${COLUMNS} FROM ${COPIES} WHERE bank_copy.id = $1`,
    [id],
  );
  return copy ?? null;
}

export async function insertCopy(db: Db, askedBy: string | null, at: Date): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      'INSERT INTO bank_copy (asked_by, asked_at) VALUES ($1, $2) RETURNING id',
      [askedBy, at],
    ),
  );
  return id;
}

/** The copy that waits longest to be made; null where none does. */
export async function waitingCopy(db: Db): Promise<BankCopy | null> {
  const [copy] = await db.rows<BankCopy>(
    `SELECT ${COLUMNS} FROM ${COPIES} WHERE begun_at IS NULL ORDER BY asked_at LIMIT 1`,
  );
  return copy ?? null;
}

/** Copies that somebody began and nobody ended. */
export async function brokenOff(db: Db): Promise<BankCopy[]> {
  return db.rows<BankCopy>(
    `SELECT ${COLUMNS} FROM ${COPIES}
     WHERE begun_at IS NOT NULL AND made_at IS NULL AND failed IS NULL`,
  );
}

export async function markBegun(db: Db, id: string, file: string, at: Date): Promise<void> {
  await db.rows('UPDATE bank_copy SET begun_at = $3, file = $2 WHERE id = $1', [id, file, at]);
}

export async function markMade(
  db: Db,
  id: string,
  made: { madeAt: Date; bytes: number; rows: number },
): Promise<void> {
  await db.rows('UPDATE bank_copy SET made_at = $2, bytes = $3, rows = $4 WHERE id = $1', [
    id,
    made.madeAt,
    made.bytes,
    made.rows,
  ]);
}

export async function markFailed(db: Db, id: string, why: string): Promise<void> {
  await db.rows('UPDATE bank_copy SET failed = $2 WHERE id = $1', [id, why]);
}

export async function markRemoved(db: Db, id: string, at: Date): Promise<void> {
  await db.rows('UPDATE bank_copy SET removed_at = $2 WHERE id = $1', [id, at]);
}

/** @param failed null where all of it came back */
export async function markTried(
  db: Db,
  id: string,
  failed: string | null,
  at: Date,
): Promise<void> {
  await db.rows('UPDATE bank_copy SET tested_at = $2, test_failed = $3 WHERE id = $1', [
    id,
    at,
    failed,
  ]);
}

export async function markRestoreFailed(db: Db, id: string, failed: string): Promise<void> {
  await db.rows('UPDATE bank_copy SET restore_failed = $2 WHERE id = $1', [id, failed]);
}

/** Which of these files no copy is called, removed ones included. */
export async function unlistedOf(db: Db, files: readonly string[]): Promise<string[]> {
  const rows = await db.rows<{ file: string }>(
    'SELECT file FROM unnest($1::text[]) AS file WHERE NOT EXISTS (SELECT FROM bank_copy WHERE bank_copy.file = file.file)',
    [files],
  );
  return rows.map(({ file }) => file);
}

/** A copy that lies in the folder and that this bank knows nothing of; nothing thins it out. */
export async function insertFound(
  db: Db,
  file: string,
  made: { madeAt: Date; bytes: number; rows: number },
): Promise<void> {
  await db.rows(
    `INSERT INTO bank_copy (asked_by, asked_at, begun_at, file, made_at, bytes, rows)
     SELECT min(id::text)::uuid, $2, $2, $1, $2, $3, $4 FROM account WHERE role = 'owner'`,
    [file, made.madeAt, made.bytes, made.rows],
  );
}

/** What is known of copies as a whole. */
export interface CopyFacts extends Nights {
  lastFailed: string | null;
  lastTriedAt: Date | null;
  lastTrialFailed: string | null;
  bytes: number | null;
}

export async function copyFacts(db: Db): Promise<CopyFacts> {
  return one(
    db.rows<CopyFacts>(
      `SELECT (SELECT min(created_at) FROM account) AS "usedSince", made.made_at AS "lastMadeAt",
         made.bytes::float8 AS bytes, broken.begun_at AS "lastFailedAt", broken.failed AS "lastFailed",
         tried.tested_at AS "lastTriedAt", tried.test_failed AS "lastTrialFailed"
       FROM (SELECT 1) AS always
       LEFT JOIN LATERAL (SELECT made_at, bytes FROM bank_copy WHERE made_at IS NOT NULL AND removed_at IS NULL
         ORDER BY made_at DESC LIMIT 1) AS made ON true
       LEFT JOIN LATERAL (SELECT begun_at, failed FROM bank_copy WHERE failed IS NOT NULL
         ORDER BY begun_at DESC LIMIT 1) AS broken ON true
       LEFT JOIN LATERAL (SELECT tested_at, test_failed FROM bank_copy WHERE tested_at IS NOT NULL
         ORDER BY tested_at DESC LIMIT 1) AS tried ON true`,
    ),
  );
}

export async function keptCopies(db: Db): Promise<Kept> {
  const [kept] = await db.rows<Kept>('SELECT days, weeks, months FROM copies_kept');
  return kept ?? KEPT;
}

export async function writeKept(db: Db, { days, weeks, months }: Kept): Promise<void> {
  await db.rows(
    `INSERT INTO copies_kept (days, weeks, months) VALUES ($1, $2, $3)
     ON CONFLICT (single) DO UPDATE SET days = $1, weeks = $2, months = $3`,
    [days, weeks, months],
  );
}
