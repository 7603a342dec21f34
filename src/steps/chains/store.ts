import type { Db } from '@/platform/database';
import { type Chain, type ChainDraft, chainShape, type ReferenceChange } from './schema';

const COLUMNS = `id, position, name, items, price_cents AS "priceCents", distance_m AS "distanceM",
  angle_deg AS "angleDeg", shape, version,
  (SELECT coalesce(jsonb_agg(jsonb_build_object('gearId', gear_id, 'settings', settings)
     ORDER BY position), '[]') FROM chain_item WHERE chain_id = chain.id) AS gear`;

export async function listChains(db: Db, comparisonId: string): Promise<Chain[]> {
  const rows = await db.rows<Chain>(
    `SELECT ${COLUMNS} FROM chain WHERE comparison_id = $1 AND deleted_at IS NULL
     ORDER BY position, name`,
    [comparisonId],
  );
  return rows.map((row) => ({ ...row, shape: chainShape.parse(row.shape) }));
}

/** Chains of each of many comparisons; those without any are left out. */
export async function chainCounts(
  db: Db,
  comparisonIds: readonly string[],
): Promise<{ comparisonId: string; chains: number }[]> {
  return db.rows(
    `SELECT comparison_id AS "comparisonId", count(*)::int AS chains FROM chain
     WHERE comparison_id = ANY ($1::uuid[]) AND deleted_at IS NULL GROUP BY comparison_id`,
    [comparisonIds],
  );
}

export async function insertChain(
  db: Db,
  comparisonId: string,
  draft: ChainDraft,
): Promise<string> {
  const { name, items, priceCents, distanceM, angleDeg, shape } = draft;
  const [{ id }] = await db.rows<{ id: string }>(
    `INSERT INTO chain (comparison_id, position, name, items, price_cents, distance_m, angle_deg, shape)
     VALUES ($1, (SELECT coalesce(max(position), 0) + 1 FROM chain WHERE comparison_id = $1),
       $2, $3, $4, $5, $6, $7) RETURNING id`,
    [comparisonId, name, items, priceCents, distanceM, angleDeg, JSON.stringify(shape)],
  );
  await insertItems(db, id, draft.gear);
  return id;
}

async function insertItems(db: Db, chainId: string, items: ChainDraft['gear']): Promise<void> {
  await db.rows(
    `INSERT INTO chain_item (chain_id, position, gear_id, settings)
     SELECT $1, ordinality - 1, ("row"->>'gearId')::uuid, "row"->'settings'
     FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS list ("row", ordinality)`,
    [chainId, JSON.stringify(items)],
  );
}

export async function updateChain(
  db: Db,
  comparisonId: string,
  chainId: string,
  draft: ChainDraft,
  version: number,
): Promise<boolean> {
  const { name, items, priceCents, distanceM, angleDeg, shape } = draft;
  const rows = await db.rows(
    `UPDATE chain SET name = $4, items = $5, price_cents = $6, distance_m = $7, angle_deg = $8,
       shape = $9, version = version + 1
     WHERE comparison_id = $1 AND id = $2 AND version = $3 AND deleted_at IS NULL RETURNING id`,
    [
      comparisonId,
      chainId,
      version,
      name,
      items,
      priceCents,
      distanceM,
      angleDeg,
      JSON.stringify(shape),
    ],
  );
  if (rows.length === 0) return false;
  await db.rows('DELETE FROM chain_item WHERE chain_id = $1', [chainId]);
  await insertItems(db, chainId, draft.gear);
  return true;
}

export async function hasClips(db: Db, chainId: string): Promise<boolean> {
  const rows = await db.rows(
    `SELECT 1 FROM clip_set JOIN chain ON chain.comparison_id = clip_set.comparison_id
     WHERE chain.id = $1 AND (reference_chain_id = $1 OR EXISTS
       (SELECT 1 FROM clip WHERE clip.chain_id = $1)) LIMIT 1`,
    [chainId],
  );
  return rows.length > 0;
}

/** Marks as deleted and lets go of its takes, which remember it for undoing. */
export async function deleteChain(
  db: Db,
  comparisonId: string,
  chainId: string,
  at: Date,
): Promise<void> {
  await db.rows(
    `UPDATE chain SET deleted_at = $3 WHERE comparison_id = $1 AND id = $2 AND deleted_at IS NULL`,
    [comparisonId, chainId, at],
  );
  await db.rows(
    `UPDATE take SET chain_id = NULL, picked = false, former_chain_id = $1
     WHERE chain_id = $1 AND comparison_id = $2`,
    [chainId, comparisonId],
  );
  await db.rows(
    'UPDATE comparison SET reference_chain_id = NULL WHERE id = $1 AND reference_chain_id = $2',
    [comparisonId, chainId],
  );
}

/** Takes a deletion back; takes return unless another chain has them by now. */
export async function restoreChain(
  db: Db,
  comparisonId: string,
  chainId: string,
): Promise<boolean> {
  const rows = await db.rows(
    'UPDATE chain SET deleted_at = NULL WHERE comparison_id = $1 AND id = $2 RETURNING id',
    [comparisonId, chainId],
  );
  await db.rows(
    `UPDATE take SET chain_id = $2
     WHERE former_chain_id = $2 AND comparison_id = $1 AND chain_id IS NULL`,
    [comparisonId, chainId],
  );
  return rows.length > 0;
}

export async function referenceOf(db: Db, comparisonId: string): Promise<string | null> {
  const [row] = await db.rows<{ id: string | null }>(
    'SELECT reference_chain_id AS id FROM comparison WHERE id = $1',
    [comparisonId],
  );
  return row?.id ?? null;
}

export async function setReference(
  db: Db,
  comparisonId: string,
  chainId: string | null,
  chainName: string,
  reason: string,
  at: Date,
): Promise<void> {
  await db.rows('UPDATE comparison SET reference_chain_id = $2 WHERE id = $1', [
    comparisonId,
    chainId,
  ]);
  await db.rows(
    `INSERT INTO reference_change (comparison_id, chain_name, reason, changed_at)
     VALUES ($1, $2, $3, $4)`,
    [comparisonId, chainName, reason, at],
  );
}

/** The studio's reference chains, latest first. */
export async function referenceHistory(db: Db, ownerId: string): Promise<ReferenceChange[]> {
  return db.rows(
    `SELECT comparison.title AS comparison, chain_name AS "chainName", reason, changed_at AS "changedAt"
     FROM reference_change JOIN comparison ON comparison.id = comparison_id
     WHERE comparison.owner_id = $1 AND comparison.deleted_at IS NULL
     ORDER BY reference_change.id DESC LIMIT 30`,
    [ownerId],
  );
}

export async function readCautions(db: Db, comparisonId: string): Promise<string[]> {
  const rows = await db.rows<{ caution: string }>(
    'SELECT caution FROM caution_read WHERE comparison_id = $1',
    [comparisonId],
  );
  return rows.map(({ caution }) => caution);
}

export async function insertCautionRead(
  db: Db,
  comparisonId: string,
  caution: string,
  accountId: string,
  at: Date,
): Promise<void> {
  await db.rows(
    `INSERT INTO caution_read (comparison_id, caution, account_id, read_at) VALUES ($1, $2, $3, $4)
     ON CONFLICT DO NOTHING`,
    [comparisonId, caution, accountId, at],
  );
}

/** Names of the gear in these chains. */
export async function gearNamesOf(db: Db, chainIds: readonly string[]): Promise<string[]> {
  const rows = await db.rows<{ name: string }>(
    `SELECT DISTINCT gear.name FROM chain_item JOIN gear ON gear.id = gear_id
     WHERE chain_id = ANY ($1::uuid[]) ORDER BY gear.name`,
    [chainIds],
  );
  return rows.map(({ name }) => name);
}
