import type { Db } from '../database';

export type Role = 'owner' | 'engineer' | 'conductor';

export interface AccountRow {
  id: string;
  name: string;
  password_hash: string;
  role: Role;
}

/** Somebody with an account, as the bank knows them while they are signed in. */
export interface SignedIn {
  accountId: string;
  /** Account whose comparisons and gear these are: the owner's own. */
  studioId: string;
  name: string;
  role: Role;
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
  place: { role: Role; studioId: string | null } = { role: 'owner', studioId: null },
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO account (name, password_hash, created_at, role, studio_id)
     VALUES ($1, $2, $3, $4, $5) RETURNING id`,
    [name, passwordHash, at, place.role, place.studioId],
  );
  return id;
}

export async function findAccount(db: Db, name: string): Promise<AccountRow | null> {
  const [row] = await db.rows<AccountRow>(
    `SELECT id, name, password_hash, role FROM account
     WHERE lower(name) = lower($1) AND ended_at IS NULL`,
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
): Promise<SignedIn | null> {
  const [row] = await db.rows<SignedIn>(
    `SELECT account.id AS "accountId", coalesce(studio_id, account.id) AS "studioId", account.name,
       account.role
     FROM sign_in JOIN account ON account.id = account_id
     WHERE sign_in.id = $1 AND sign_in.ended_at IS NULL AND account.ended_at IS NULL
       AND started_at > $2`,
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

export async function updatePassword(
  db: Db,
  accountId: string,
  passwordHash: string,
): Promise<void> {
  await db.rows('UPDATE account SET password_hash = $2 WHERE id = $1', [accountId, passwordHash]);
}

/** Ends every sign-in of an account, on all devices. */
export async function endSignInsOf(db: Db, accountId: string, at: Date): Promise<void> {
  await db.rows('UPDATE sign_in SET ended_at = $2 WHERE account_id = $1 AND ended_at IS NULL', [
    accountId,
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

export interface Person {
  accountId: string;
  name: string;
  role: Role;
  endedAt: Date | null;
  lastSignIn: Date | null;
}

/** Everybody of a studio, the owner first. */
export async function listPeople(db: Db, studioId: string): Promise<Person[]> {
  return db.rows<Person>(
    `SELECT id AS "accountId", name, role, ended_at AS "endedAt",
       (SELECT max(started_at) FROM sign_in WHERE account_id = account.id) AS "lastSignIn"
     FROM account WHERE id = $1 OR studio_id = $1 ORDER BY studio_id NULLS FIRST, created_at`,
    [studioId],
  );
}

/** Ends or gives back somebody's access; the owner's own stays. @returns whether there is such a person */
export async function setEnded(
  db: Db,
  studioId: string,
  accountId: string,
  at: Date | null,
): Promise<boolean> {
  const rows = await db.rows(
    'UPDATE account SET ended_at = $3 WHERE studio_id = $1 AND id = $2 RETURNING id',
    [studioId, accountId, at],
  );
  return rows.length > 0;
}

export interface Invited {
  id: string;
  role: 'engineer' | 'conductor';
  meantFor: string;
  expiresAt: Date;
}

export async function insertInvitation(
  db: Db,
  invitation: Omit<Invited, 'id'> & { studioId: string; tokenHash: string },
  at: Date,
): Promise<void> {
  const { studioId, tokenHash, role, meantFor, expiresAt } = invitation;
  await db.rows(
    `INSERT INTO invitation (studio_id, token_hash, role, meant_for, created_at, expires_at)
     VALUES ($1, $2, $3, $4, $5, $6)`,
    [studioId, tokenHash, role, meantFor, at, expiresAt],
  );
}

/** Invitations that can still be used. */
export async function listInvitations(db: Db, studioId: string, at: Date): Promise<Invited[]> {
  return db.rows<Invited>(
    `SELECT id, role, meant_for AS "meantFor", expires_at AS "expiresAt" FROM invitation
     WHERE studio_id = $1 AND used_at IS NULL AND expires_at > $2 ORDER BY created_at`,
    [studioId, at],
  );
}

/** The invitation behind a link that can still be used; held until the end of the transaction. */
export async function findInvitation(
  db: Db,
  tokenHash: string,
  at: Date,
): Promise<(Invited & { studioId: string }) | null> {
  const [row] = await db.rows<Invited & { studioId: string }>(
    `SELECT id, studio_id AS "studioId", role, meant_for AS "meantFor", expires_at AS "expiresAt"
     FROM invitation WHERE token_hash = $1 AND used_at IS NULL AND expires_at > $2 FOR UPDATE`,
    [tokenHash, at],
  );
  return row ?? null;
}

export async function markUsed(db: Db, id: string, at: Date): Promise<void> {
  await db.rows('UPDATE invitation SET used_at = $2 WHERE id = $1', [id, at]);
}

export async function deleteInvitation(db: Db, studioId: string, id: string): Promise<boolean> {
  const rows = await db.rows(
    'DELETE FROM invitation WHERE studio_id = $1 AND id = $2 AND used_at IS NULL RETURNING id',
    [studioId, id],
  );
  return rows.length > 0;
}
