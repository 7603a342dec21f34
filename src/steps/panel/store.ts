import type { Db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import type { Panelist, PanelistDraft, PanelList, PanelQuery } from './schema';

/** How the panel can be sorted; equal ones by id, so that none is passed over from page to page. */
const ORDERS: Record<PanelQuery['sort'], string> = {
  name: 'lower(alias), id',
  last: '(SELECT max(consented_at) FROM panel_seat WHERE panelist_id = panelist.id) DESC NULLS LAST, id',
};
const FOUND = `FROM panelist WHERE owner_id = $1 AND ($2 = '' OR position(lower($2) IN
  lower(alias || ' ' || experience || ' ' || hearing || ' ' || playback)) > 0)`;

/** What one listener gave: asked for each by the key of their answers, never by going over all there are. */
const GIVEN = `LEFT JOIN LATERAL (SELECT * FROM listener_given
  WHERE listener_given.listener_id = panel_seat.listener_id) AS given ON true`;

/** One page of a studio's panel, with what each did so far. */
export async function listPanelists(
  db: Db,
  ownerId: string,
  { q, sort, page }: PanelQuery,
): Promise<Panelist[]> {
  return db.rows<Panelist>(
    `SELECT id, alias, experience, hearing, playback, done.*
     FROM (SELECT *, row_number() OVER (ORDER BY ${ORDERS[sort]}) AS place ${FOUND}
       ORDER BY place LIMIT $3 OFFSET $4) AS shown
     CROSS JOIN LATERAL (SELECT count(*)::int AS sittings, coalesce(sum(given.answers), 0)::int AS answers,
         coalesce(sum(given.seconds), 0) / 60 AS minutes, max(given.at) AS "lastAt",
         coalesce(bool_or(panel_seat.simulated), false) AS simulated
       FROM panel_seat ${GIVEN} WHERE panel_seat.panelist_id = shown.id) AS done
     ORDER BY place`,
    [ownerId, q, LIST_PAGE, (page - 1) * LIST_PAGE],
  );
}

/** How many people there are, in how many a text was found, and the minutes all of them gave. */
export async function countPanel(
  db: Db,
  ownerId: string,
  q: string,
): Promise<Pick<PanelList, 'found' | 'all' | 'minutes'>> {
  const row = await one(
    db.rows<Pick<PanelList, 'found' | 'all' | 'minutes'>>(
      `SELECT (SELECT count(*)::int ${FOUND}) AS found,
       (SELECT count(*)::int FROM panelist WHERE owner_id = $1) AS all,
       (SELECT coalesce(sum(given.seconds), 0) / 60 FROM panelist
          JOIN panel_seat ON panel_seat.panelist_id = panelist.id ${GIVEN} WHERE owner_id = $1) AS minutes`,
      [ownerId, q],
    ),
  );
  return row;
}

export async function panelSize(db: Db, ownerId: string): Promise<number> {
  const { size } = await one(
    db.rows<{ size: number }>('SELECT count(*)::int AS size FROM panelist WHERE owner_id = $1', [
      ownerId,
    ]),
  );
  return size;
}

/** The first people in whose name a text is found, by name, without some. */
export async function namesOfPanel(
  db: Db,
  ownerId: string,
  q: string,
  without: readonly string[],
): Promise<{ id: string; name: string }[]> {
  return db.rows(
    `SELECT id, alias AS name FROM panelist WHERE owner_id = $1 AND position(lower($2) IN lower(alias)) > 0
       AND id <> ALL ($3::uuid[]) ORDER BY lower(alias), id LIMIT $4`,
    [ownerId, q, without, LIST_PAGE],
  );
}

export async function insertPanelist(
  db: Db,
  ownerId: string,
  { alias, experience, hearing, playback }: PanelistDraft,
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO panelist (owner_id, alias, experience, hearing, playback, created_at)
     VALUES ($1, $2, $3, $4, $5, $6) RETURNING id`,
      [ownerId, alias, experience, hearing, playback, at],
    ),
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

export async function deletePanelist(db: Db, ownerId: string, id: string): Promise<boolean> {
  const rows = await db.rows('DELETE FROM panelist WHERE owner_id = $1 AND id = $2 RETURNING id', [
    ownerId,
    id,
  ]);
  return rows.length > 0;
}
