import type { Db } from '../database';

export interface AccountRow {
  id: string;
  name: string;
  password_hash: string;
  role: 'owner' | 'engineer' | 'conductor';
}

export async function countAccounts(db: Db): Promise<number> {
  const [{ count }] = await db.rows<{ count: number }>(
    'SELECT count(*)::int AS count FROM account',
  );
  return count;
}

export async function insertAccount(
  db: Db,
  name: string,
  passwordHash: string,
  at: Date,
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    'INSERT INTO account (name, password_hash, created_at) VALUES ($1, $2, $3) RETURNING id',
    [name, passwordHash, at],
  );
  return id;
}

export async function findAccount(db: Db, name: string): Promise<AccountRow | null> {
  const [row] = await db.rows<AccountRow>(
    'SELECT id, name, password_hash, role FROM account WHERE lower(name) = lower($1)',
    [name],
  );
  return row ?? null;
}

export async function insertSignIn(db: Db, accountId: string, at: Date): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    'INSERT INTO sign_in (account_id, started_at) VALUES ($1, $2) RETURNING id',
    [accountId, at],
  );
  return id;
}

/** The account behind a sign-in that has not ended and began after `since`. */
export async function findSignedIn(
  db: Db,
  signInId: string,
  since: Date,
): Promise<Omit<AccountRow, 'password_hash'> | null> {
  const [row] = await db.rows<AccountRow>(
    `SELECT account.id, account.name, account.role FROM sign_in JOIN account ON account.id = account_id
     WHERE sign_in.id = $1 AND ended_at IS NULL AND started_at > $2`,
    [signInId, since],
  );
  return row ?? null;
}

export async function endSignIn(db: Db, signInId: string, at: Date): Promise<void> {
  await db.rows('UPDATE sign_in SET ended_at = $2 WHERE id = $1 AND ended_at IS NULL', [
    signInId,
    at,
  ]);
}

export async function insertFailure(db: Db, name: string, at: Date): Promise<void> {
  await db.rows('INSERT INTO sign_in_failure (name, at) VALUES (lower($1), $2)', [name, at]);
}

export async function countFailures(
  db: Db,
  name: string,
  since: Date,
): Promise<{ name: number; all: number }> {
  const [row] = await db.rows<{ name: number; all: number }>(
    `SELECT count(*) FILTER (WHERE name = lower($1))::int AS name, count(*)::int AS all
     FROM sign_in_failure WHERE at > $2`,
    [name, since],
  );
  return row;
}

export async function forgetFailures(db: Db, name: string, before: Date): Promise<void> {
  await db.rows('DELETE FROM sign_in_failure WHERE name = lower($1) OR at < $2', [name, before]);
}

/** The secret of a name, made by the first who asks. */
export async function secretOf(db: Db, name: string, fresh: string): Promise<string> {
  await db.rows('INSERT INTO secret (name, value) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
    name,
    fresh,
  ]);
  const [{ value }] = await db.rows<{ value: string }>('SELECT value FROM secret WHERE name = $1', [
    name,
  ]);
  return value;
}
