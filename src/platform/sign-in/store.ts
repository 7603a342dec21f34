import type { Db } from '../database';
import { one } from '../one';
import type { InvitedRole, Role } from './roles';

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
  const { count } = await one(
    db.rows<{ count: number }>('SELECT count(*)::int AS count FROM account'),
  );
  return count;
}

export async function insertAccount(
  db: Db,
  name: string,
  passwordHash: string,
  at: Date,
  place: { role: Role; studioId: string | null; limited: boolean } = {
    role: 'owner',
    studioId: null,
    limited: false,
  },
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO account (name, password_hash, created_at, role, studio_id, limited)
     VALUES ($1, $2, $3, $4, $5, $6) RETURNING id`,
      [name, passwordHash, at, place.role, place.studioId, place.limited],
    ),
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
  const { id } = await one(
    db.rows<{ id: string }>(
      'INSERT INTO sign_in (account_id, started_at) VALUES ($1, $2) RETURNING id',
      [accountId, at],
    ),
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

/** @returns whose sign-in it was; null when it had ended before */
export async function endSignIn(db: Db, signInId: string, at: Date): Promise<string | null> {
  const [row] = await db.rows<{ id: string }>(
    `UPDATE sign_in SET ended_at = $2 WHERE id = $1 AND ended_at IS NULL
     RETURNING account_id AS id`,
    [signInId, at],
  );
  return row?.id ?? null;
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

/** Whether somebody signed in to this account on this device before. */
export async function knowsDevice(db: Db, accountId: string, tokenHash: string): Promise<boolean> {
  const rows = await db.rows(
    'SELECT 1 FROM known_device WHERE account_id = $1 AND token_hash = $2',
    [accountId, tokenHash],
  );
  return rows.length > 0;
}

export async function insertDevice(
  db: Db,
  accountId: string,
  tokenHash: string,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO known_device (account_id, token_hash, created_at) VALUES ($1, $2, $3)
     ON CONFLICT DO NOTHING`,
    [accountId, tokenHash, at],
  );
}

export async function forgetDevices(db: Db, accountId: string): Promise<void> {
  await db.rows('DELETE FROM known_device WHERE account_id = $1', [accountId]);
}

export async function readSecret(db: Db, name: string): Promise<string | null> {
  const [row] = await db.rows<{ value: string }>('SELECT value FROM secret WHERE name = $1', [
    name,
  ]);
  return row?.value ?? null;
}

/** The secret of a name, made by the first who asks. Every page asks, so it is looked for before it is made. */
export async function secretOf(db: Db, name: string, fresh: () => string): Promise<string> {
  const known = await readSecret(db, name);
  if (known !== null) return known;
  await db.rows('INSERT INTO secret (name, value) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
    name,
    fresh(),
  ]);
  return (await readSecret(db, name))!;
}

export async function writeSecret(db: Db, name: string, value: string): Promise<void> {
  await db.rows(
    'INSERT INTO secret (name, value) VALUES ($1, $2) ON CONFLICT (name) DO UPDATE SET value = $2',
    [name, value],
  );
}

export interface Person {
  accountId: string;
  name: string;
  role: Role;
  /** Whether only some comparisons are shown to them, and how many. */
  limited: boolean;
  shown: number;
  endedAt: Date | null;
  lastSignIn: Date | null;
}

/** Everybody of a studio who can have access, the owner first. */
export async function listPeople(db: Db, studioId: string): Promise<Person[]> {
  return db.rows<Person>(
    `SELECT id AS "accountId", name, role, limited, ended_at AS "endedAt",
       (SELECT count(*)::int FROM account_comparison WHERE account_id = account.id) AS shown,
       (SELECT max(started_at) FROM sign_in WHERE account_id = account.id) AS "lastSignIn"
     FROM account WHERE (id = $1 OR studio_id = $1) AND password_hash <> '' ORDER BY studio_id NULLS FIRST, created_at`,
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
    `UPDATE account SET ended_at = $3 WHERE studio_id = $1 AND id = $2 AND password_hash <> '' RETURNING id`,
    [studioId, accountId, at],
  );
  return rows.length > 0;
}

/** Whether only some comparisons are shown to somebody of a studio, and which; null where there is no such person. */
export async function findShown(
  db: Db,
  studioId: string,
  accountId: string,
): Promise<{ role: Role; limited: boolean; comparisonIds: string[] } | null> {
  const [row] = await db.rows<{ role: Role; limited: boolean; comparisonIds: string[] }>(
    `SELECT role, limited, (SELECT coalesce(array_agg(comparison_id), '{}') FROM account_comparison
       WHERE account_id = account.id) AS "comparisonIds"
     FROM account WHERE studio_id = $1 AND id = $2`,
    [studioId, accountId],
  );
  return row ?? null;
}

/** Shows somebody all comparisons, or these and those alone. */
export async function setShown(
  db: Db,
  accountId: string,
  limited: boolean,
  comparisonIds: readonly string[],
): Promise<void> {
  await db.rows('UPDATE account SET limited = $2 WHERE id = $1', [accountId, limited]);
  await db.rows('DELETE FROM account_comparison WHERE account_id = $1', [accountId]);
  await showTo(db, accountId, comparisonIds);
}

/** Adds comparisons to those that somebody sees who does not see all. */
export async function showTo(
  db: Db,
  accountId: string,
  comparisonIds: readonly string[],
): Promise<void> {
  await db.rows(
    `INSERT INTO account_comparison (account_id, comparison_id)
     SELECT id, unnest($2::uuid[]) FROM account WHERE id = $1 AND limited ON CONFLICT DO NOTHING`,
    [accountId, comparisonIds],
  );
}

export interface Invited {
  id: string;
  role: InvitedRole;
  /** Begins with no comparison but those that are shown to them. */
  limited: boolean;
  meantFor: string;
  expiresAt: Date;
}

export async function insertInvitation(
  db: Db,
  invitation: Omit<Invited, 'id'> & { studioId: string; tokenHash: string },
  at: Date,
): Promise<void> {
  const { studioId, tokenHash, role, limited, meantFor, expiresAt } = invitation;
  await db.rows(
    `INSERT INTO invitation (studio_id, token_hash, role, meant_for, created_at, expires_at, limited)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [studioId, tokenHash, role, meantFor, at, expiresAt, limited],
  );
}

/** Invitations that can still be used. */
export async function listInvitations(db: Db, studioId: string, at: Date): Promise<Invited[]> {
  return db.rows<Invited>(
    `SELECT id, role, limited, meant_for AS "meantFor", expires_at AS "expiresAt" FROM invitation
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
    `SELECT id, studio_id AS "studioId", role, limited, meant_for AS "meantFor", expires_at AS "expiresAt"
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
