import { fieldsOf, GEAR_KINDS, type GearKind } from '@/core/chain/kinds';
import type { CurvePoint } from '@/core/chain/specs';
import type { Db } from '@/platform/database';
import { LIST_PAGE } from '@/platform/list-query';
import { one } from '@/platform/one';
import { seen, STUDIO } from '@/platform/sign-in/seen';
import {
  type Gear,
  GEAR_PAGE,
  type GearDraft,
  type GearList,
  type GearQuery,
  type GearSort,
  type ListedGear,
  storedJson,
} from './schema';

const BARE_NAMES = 6;

const COLUMNS = `id, name, kind, maker, specs, price_cents AS "priceCents", prices, ownership, condition, notes,
  scores, attributes, impedance_curve AS "impedanceCurve", response_curve AS "responseCurve", simulated, version,
  ARRAY(SELECT accessory_id FROM gear_accessory WHERE gear_id = gear.id ORDER BY accessory_id)
    AS "accessoryIds"`;

function read(row: Gear): Gear {
  return { ...row, ...storedJson.parse(row) };
}

/** The list, in the order in which sound meets it, then by name; with what was deleted but is still in chains when asked for. */
export async function listGear(db: Db, ownerId: string, deletedToo = false): Promise<Gear[]> {
  const rows = await db.rows<Gear>(
    `SELECT ${COLUMNS} FROM gear WHERE owner_id = $1 AND ($2 OR deleted_at IS NULL)
     ORDER BY array_position($3::text[], kind), lower(name)`,
    [ownerId, deletedToo, GEAR_KINDS],
  );
  return rows.map(read);
}

/** How the list can be sorted; equal ones in the usual order, so that none is passed over from page to page. */
const ORDERS: Record<GearSort, string> = {
  kind: 'array_position($2::text[], kind)',
  name: 'lower(name)',
  maker: 'lower(maker)',
  price: 'price_cents',
  ownership: 'ownership',
  marks: '(SELECT avg(mark::numeric) FROM jsonb_each_text(scores) AS given (score, mark))',
};
const USUAL_ORDER = `${ORDERS.kind}, lower(name), id`;
const FOUND = `FROM gear WHERE owner_id = $1 AND deleted_at IS NULL AND position(lower($3) IN
  lower(name || ' ' || kind || ' ' || maker || ' ' || condition || ' ' || notes || ' ' || attributes::text)) > 0`;

function orderOf(sort: GearQuery['sort']): string {
  const down = sort.startsWith('-');
  const order = ORDERS[(down ? sort.slice(1) : sort) as GearSort];
  return `${order} ${down ? 'DESC' : 'ASC'} NULLS LAST, ${USUAL_ORDER}`;
}

/** One page of a studio's list. */
export async function pageOfGear(
  db: Db,
  ownerId: string,
  { q, sort, page }: GearQuery,
): Promise<ListedGear[]> {
  const rows = await db.rows<ListedGear>(
    `SELECT ${COLUMNS},
       (SELECT coalesce(jsonb_agg(jsonb_build_object('id', other.id, 'name', other.name) ORDER BY lower(other.name)), '[]')
        FROM gear_accessory JOIN gear AS other ON other.id = accessory_id WHERE gear_id = gear.id) AS accessories
     ${FOUND} ORDER BY ${orderOf(sort)} LIMIT $4 OFFSET $5`,
    [ownerId, GEAR_KINDS, q, GEAR_PAGE, (page - 1) * GEAR_PAGE],
  );
  return rows.map((row) => ({ ...row, ...storedJson.parse(row) }));
}

/** Of a whole list what its first look says: how many, in how many a text was found, of how many nothing is known. */
export async function countGear(
  db: Db,
  ownerId: string,
  q: string,
): Promise<Omit<GearList, 'query' | 'items'>> {
  const withSpecs = GEAR_KINDS.filter((kind) => fieldsOf(kind).length > 0);
  const row = await one(
    db.rows<Omit<GearList, 'query' | 'items'>>(
      `WITH mine AS (SELECT id, lower(name) AS place, name, simulated, kind = ANY($2::text[]) AND specs = '{}' AS bare
       FROM gear WHERE owner_id = $1 AND deleted_at IS NULL)
     SELECT (SELECT count(*)::int ${FOUND}) AS found, count(*)::int AS all,
       coalesce(bool_or(simulated), false) AS simulated, (count(*) FILTER (WHERE bare))::int AS bare,
       coalesce((array_agg(name ORDER BY place, id) FILTER (WHERE bare))[1:${BARE_NAMES}], '{}') AS "bareNames"
     FROM mine`,
      [ownerId, withSpecs, q],
    ),
  );
  return row;
}

/** The first items of a kind in whose name a text is found, by name. */
export async function namesOfGear(
  db: Db,
  ownerId: string,
  kind: GearKind,
  q: string,
): Promise<{ id: string; name: string }[]> {
  return db.rows(
    `SELECT id, name FROM gear WHERE owner_id = $1 AND deleted_at IS NULL AND kind = $2
       AND position(lower($3) IN lower(name)) > 0 ORDER BY lower(name), id LIMIT $4`,
    [ownerId, kind, q, LIST_PAGE],
  );
}

/** Items by their ids, deleted ones too: chains still hold them. */
export async function findGear(db: Db, ids: readonly string[]): Promise<Gear[]> {
  const rows = await db.rows<Gear>(`SELECT ${COLUMNS} FROM gear WHERE id = ANY($1::uuid[])`, [ids]);
  return rows.map(read);
}

/** One item of a studio, a deleted one too. */
export async function findOwnGear(
  db: Db,
  ownerId: string,
  id: string,
): Promise<(Gear & { deleted: boolean }) | null> {
  const [row] = await db.rows<Gear & { deleted: boolean }>(
    `SELECT ${COLUMNS}, deleted_at IS NOT NULL AS deleted FROM gear WHERE owner_id = $1 AND id = $2`,
    [ownerId, id],
  );
  return row ? { ...read(row), deleted: row.deleted } : null;
}

/** Inserts or replaces by name; accessories are set apart. @returns ids by lower-case name */
export async function upsertGear(
  db: Db,
  ownerId: string,
  drafts: readonly Omit<GearDraft, 'accessoryIds'>[],
  simulated: boolean,
  at: Date,
): Promise<Map<string, string>> {
  const rows = await db.rows<{ id: string; name: string }>(
    `INSERT INTO gear (owner_id, name, kind, maker, specs, price_cents, ownership, condition, notes,
       scores, attributes, prices, simulated, created_at)
     SELECT $1, name, kind, maker, specs, "priceCents", ownership, condition, notes, scores,
       coalesce(attributes, '{}'), coalesce(prices, '{}'), $3, $4
     FROM jsonb_to_recordset($2::jsonb) AS row (name text, kind text, maker text, specs jsonb,
       "priceCents" bigint, ownership text, condition text, notes text, scores jsonb,
       attributes jsonb, prices jsonb)
     ON CONFLICT (owner_id, lower(name)) WHERE deleted_at IS NULL DO UPDATE SET
       name = excluded.name, kind = excluded.kind, maker = excluded.maker, specs = excluded.specs,
       price_cents = excluded.price_cents, ownership = excluded.ownership,
       condition = excluded.condition, notes = excluded.notes, scores = excluded.scores,
       attributes = excluded.attributes, prices = excluded.prices,
       version = gear.version + 1
     RETURNING id, lower(name) AS name`,
    [ownerId, JSON.stringify(drafts), simulated, at],
  );
  return new Map(rows.map(({ id, name }) => [name, id]));
}

export async function insertGear(
  db: Db,
  ownerId: string,
  draft: GearDraft,
  simulated: boolean,
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO gear (owner_id, name, kind, maker, specs, price_cents, ownership, condition, notes,
       scores, attributes, prices, simulated, created_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) RETURNING id`,
      [ownerId, ...written(draft), simulated, at],
    ),
  );
  return id;
}

function written(draft: GearDraft) {
  const { name, kind, maker, specs, priceCents, ownership, condition, notes, scores } = draft;
  return [
    name,
    kind,
    maker,
    JSON.stringify(specs),
    priceCents,
    ownership,
    condition,
    notes,
    JSON.stringify(scores),
    JSON.stringify(draft.attributes ?? {}),
    JSON.stringify(draft.prices ?? {}),
  ];
}

/** @returns whether the version was still the one the writer had seen */
export async function updateGear(
  db: Db,
  ownerId: string,
  id: string,
  draft: GearDraft,
  version: number,
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE gear SET name = $4, kind = $5, maker = $6, specs = $7, price_cents = $8, ownership = $9,
       condition = $10, notes = $11, scores = $12, attributes = $13, prices = $14, version = version + 1
     WHERE owner_id = $1 AND id = $2 AND version = $3 AND deleted_at IS NULL RETURNING id`,
    [ownerId, id, version, ...written(draft)],
  );
  return rows.length > 0;
}

export async function updateCurve(
  db: Db,
  ownerId: string,
  id: string,
  which: 'impedance' | 'response',
  points: CurvePoint[] | null,
  version: number,
): Promise<boolean> {
  const column = which === 'impedance' ? 'impedance_curve' : 'response_curve';
  const rows = await db.rows(
    `UPDATE gear SET ${column} = $4, version = version + 1
     WHERE owner_id = $1 AND id = $2 AND version = $3 AND deleted_at IS NULL RETURNING id`,
    [ownerId, id, version, points && JSON.stringify(points)],
  );
  return rows.length > 0;
}

/** Replaces the accessories of several items. */
export async function setAccessories(
  db: Db,
  pairs: readonly { gearId: string; accessoryId: string }[],
  gearIds: readonly string[],
): Promise<void> {
  await db.rows('DELETE FROM gear_accessory WHERE gear_id = ANY($1::uuid[])', [gearIds]);
  await db.rows(
    `INSERT INTO gear_accessory (gear_id, accessory_id)
     SELECT * FROM unnest($1::uuid[], $2::uuid[]) ON CONFLICT DO NOTHING`,
    [pairs.map(({ gearId }) => gearId), pairs.map(({ accessoryId }) => accessoryId)],
  );
}

/** Ids of an owner's list that are on a circle of accessories. */
export async function circularAccessories(db: Db, ownerId: string): Promise<string[]> {
  const rows = await db.rows<{ name: string }>(
    `WITH RECURSIVE needs AS (
       SELECT a.gear_id AS start, a.accessory_id AS id FROM gear_accessory a
         JOIN gear ON gear.id = a.gear_id WHERE gear.owner_id = $1
       UNION SELECT needs.start, a.accessory_id FROM needs JOIN gear_accessory a ON a.gear_id = needs.id
     ) SELECT gear.name FROM needs JOIN gear ON gear.id = needs.start
       WHERE needs.start = needs.id ORDER BY gear.name`,
    [ownerId],
  );
  return rows.map(({ name }) => name);
}

/** How many of these ids are of the owner's list. */
export async function countOwn(db: Db, ownerId: string, ids: readonly string[]): Promise<number> {
  const { count } = await one(
    db.rows<{ count: number }>(
      'SELECT count(*) AS count FROM gear WHERE owner_id = $1 AND id = ANY($2::uuid[])',
      [ownerId, ids],
    ),
  );
  return count;
}

/** Marks as deleted, or takes that back. @returns whether the item was there */
export async function markDeleted(
  db: Db,
  ownerId: string,
  id: string,
  at: Date | null,
): Promise<boolean> {
  const rows = await db.rows(
    'UPDATE gear SET deleted_at = $3 WHERE owner_id = $1 AND id = $2 RETURNING id',
    [ownerId, id, at],
  );
  return rows.length > 0;
}

/** Chains, with their comparison, that use an item; those that somebody sees come first. */
export async function chainsWith(
  db: Db,
  viewerId: string,
  gearId: string,
): Promise<{ chain: string; comparison: string; seen: boolean }[]> {
  return db.rows(
    `SELECT DISTINCT chain, comparison, ${seen('owner_id', 'comparison_id')} AS seen FROM gear_use
     WHERE gear_id = $2 AND owner_id = ${STUDIO} ORDER BY seen DESC, comparison, chain`,
    [viewerId, gearId],
  );
}
