import type { Db, Tx } from '@/platform/database';
import type { Panelist, PanelistDraft } from './schema';

/** Everybody of a studio's panel with what they did so far. */
export async function listPanelists(db: Db, ownerId: string): Promise<Panelist[]> {
  return db.rows<Panelist>(
    `SELECT panelist.id, panelist.alias, experience, hearing, panelist.playback,
       count(DISTINCT listener.id)::int AS sittings, count(answer.position)::int AS answers,
       coalesce(sum(answer.duration_s), 0) / 60 AS minutes, max(answer.answered_at) AS "lastAt",
       coalesce(bool_or(listener.simulated), false) AS simulated
     FROM panelist LEFT JOIN listener ON listener.panelist_id = panelist.id
     LEFT JOIN answer ON answer.listener_id = listener.id
     WHERE owner_id = $1 GROUP BY panelist.id ORDER BY lower(panelist.alias)`,
    [ownerId],
  );
}

/** Who can be asked, by name alone. */
export async function listAliases(
  db: Db,
  ownerId: string,
): Promise<{ id: string; alias: string }[]> {
  return db.rows('SELECT id, alias FROM panelist WHERE owner_id = $1 ORDER BY lower(alias)', [
    ownerId,
  ]);
}

export async function insertPanelist(
  db: Db,
  ownerId: string,
  { alias, experience, hearing, playback }: PanelistDraft,
  at: Date,
): Promise<string> {
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO panelist (owner_id, alias, experience, hearing, playback, created_at)
     VALUES ($1, $2, $3, $4, $5, $6) RETURNING id`,
    [ownerId, alias, experience, hearing, playback, at],
  );
  return id;
}

export async function updatePanelist(
  db: Db,
  ownerId: string,
  id: string,
  { alias, experience, hearing, playback }: PanelistDraft,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE panelist SET alias = $3, experience = $4, hearing = $5, playback = $6
     WHERE owner_id = $1 AND id = $2 RETURNING id`,
    [ownerId, id, alias, experience, hearing, playback],
  );
  return rows.length > 0;
}

/** Places of somebody in sittings, locked until the end of the transaction. */
export async function seatsOf(
  tx: Tx,
  ownerId: string,
  panelistId: string,
): Promise<{ sittingId: string; seat: number }[]> {
  return tx.rows(
    `SELECT sitting_id AS "sittingId", seat FROM listener
     JOIN panelist ON panelist.id = panelist_id
     WHERE owner_id = $1 AND panelist_id = $2 FOR UPDATE OF listener`,
    [ownerId, panelistId],
  );
}

export async function deletePanelist(db: Db, ownerId: string, id: string): Promise<boolean> {
  const rows = await db.rows('DELETE FROM panelist WHERE owner_id = $1 AND id = $2 RETURNING id', [
    ownerId,
    id,
  ]);
  return rows.length > 0;
}
