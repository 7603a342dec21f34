import type { Db } from '@/platform/database';
import { one } from '@/platform/one';
import { SEEN } from '@/platform/sign-in/seen';
import { setReferenceChain } from '@/steps/comparisons/store';
import {
  type Chain,
  type ChainDraft,
  chainShape,
  isVariant,
  type ReferenceChange,
  type Variant,
} from './schema';

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

/** Chains that have takes of their own: variants are made of those of others. */
export async function listRecordedChains(db: Db, comparisonId: string): Promise<Chain[]> {
  return (await listChains(db, comparisonId)).filter((chain) => !isVariant(chain));
}

/** Chains of each of many comparisons, without variants of them; those without any are left out. */
export async function chainCounts(
  db: Db,
  comparisonIds: readonly string[],
): Promise<{ comparisonId: string; chains: number }[]> {
  return db.rows(
    `SELECT comparison_id AS "comparisonId", count(*)::int AS chains FROM chain
     WHERE comparison_id = ANY ($1::uuid[]) AND deleted_at IS NULL AND shape->>'kind' <> 'variant'
     GROUP BY comparison_id`,
    [comparisonIds],
  );
}

export async function insertChain(
  db: Db,
  comparisonId: string,
  draft: ChainDraft,
): Promise<string> {
  const { name, items, priceCents, distanceM, angleDeg, shape } = draft;
  const { id } = await one(
    db.rows<{ id: string }>(
      `INSERT INTO chain (comparison_id, position, name, items, price_cents, distance_m, angle_deg, shape)
     VALUES ($1, (SELECT coalesce(max(position), 0) + 1 FROM chain WHERE comparison_id = $1),
       $2, $3, $4, $5, $6, $7) RETURNING id`,
      [comparisonId, name, items, priceCents, distanceM, angleDeg, JSON.stringify(shape)],
    ),
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

/** Copies the chains of a comparison with their gear into another one. @returns each copy beside its chain */
export async function copyChains(
  db: Db,
  from: string,
  to: string,
): Promise<{ old: string; new: string }[]> {
  // Blends point at a chain by its id, so old and new ids are kept side by side.
  const chains = await db.rows<{ old: string; new: string }>(
    `WITH fresh AS (
       SELECT chain.*, gen_random_uuid() AS new_id FROM chain
       WHERE comparison_id = $1 AND deleted_at IS NULL
     ), inserted AS (
       INSERT INTO chain (id, comparison_id, position, name, items, price_cents, distance_m, angle_deg, shape)
       SELECT new_id, $2, position, name, items, price_cents, distance_m, angle_deg,
         CASE WHEN shape ? 'otherChainId' THEN shape || jsonb_build_object(
           'otherChainId', coalesce(
             (SELECT f.new_id FROM fresh f WHERE f.id::text = fresh.shape->>'otherChainId'), new_id),
           'firstChainId',
             (SELECT f.new_id FROM fresh f WHERE f.id::text = fresh.shape->>'firstChainId'))
         ELSE shape END FROM fresh
     ) SELECT id AS old, new_id AS new FROM fresh`,
    [from, to],
  );
  const freshOf = new Map(chains.map((pair) => [pair.old, pair.new]));
  const variants = (await listChains(db, to)).flatMap(({ id, shape }) =>
    shape.kind === 'variant' ? [{ id, shape: copiedVariant(shape, freshOf) }] : [],
  );
  await db.rows(
    `UPDATE chain SET shape = fresh.shape FROM unnest($1::uuid[], $2::jsonb[]) AS fresh (id, shape)
     WHERE chain.id = fresh.id`,
    [variants.map(({ id }) => id), variants.map(({ shape }) => JSON.stringify(shape))],
  );
  await db.rows(
    `INSERT INTO chain_item (chain_id, position, gear_id, settings)
     SELECT pair.new, chain_item.position, gear_id, settings
     FROM unnest($1::uuid[], $2::uuid[]) AS pair (old, new) JOIN chain_item ON chain_id = pair.old`,
    [chains.map((pair) => pair.old), chains.map((pair) => pair.new)],
  );
  return chains;
}

/** A variant among the copies of the chains that it is made of; takes are not copied. */
function copiedVariant(variant: Variant, freshOf: ReadonlyMap<string, string>): Variant {
  const fresh = (id: string) => freshOf.get(id) ?? id;
  return {
    ...variant,
    ofChainId: fresh(variant.ofChainId),
    takeId: null,
    stages: variant.stages.map((stage) =>
      'chainId' in stage ? { ...stage, chainId: fresh(stage.chainId) } : stage,
    ),
  };
}

export async function hasClips(db: Db, chainId: string): Promise<boolean> {
  const rows = await db.rows(
    `SELECT 1 FROM chain_use WHERE chain_id = $1
       AND comparison_id = (SELECT comparison_id FROM chain WHERE id = $1) LIMIT 1`,
    [chainId],
  );
  return rows.length > 0;
}

export async function markChainDeleted(
  db: Db,
  comparisonId: string,
  chainId: string,
  at: Date,
): Promise<void> {
  await db.rows(
    `UPDATE chain SET deleted_at = $3 WHERE comparison_id = $1 AND id = $2 AND deleted_at IS NULL`,
    [comparisonId, chainId, at],
  );
  if ((await referenceOf(db, comparisonId)) === chainId) {
    await setReferenceChain(db, comparisonId, null);
  }
}

/** Takes a deletion back. @returns whether it was there */
export async function restoreChain(
  db: Db,
  comparisonId: string,
  chainId: string,
): Promise<boolean> {
  const rows = await db.rows(
    'UPDATE chain SET deleted_at = NULL WHERE comparison_id = $1 AND id = $2 RETURNING id',
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
  await setReferenceChain(db, comparisonId, chainId);
  await db.rows(
    `INSERT INTO reference_change (comparison_id, chain_name, reason, changed_at)
     VALUES ($1, $2, $3, $4)`,
    [comparisonId, chainName, reason, at],
  );
}

/** The studio's reference chains, latest first. */
export async function referenceHistory(db: Db, viewerId: string): Promise<ReferenceChange[]> {
  return db.rows(
    `SELECT comparison.title AS comparison, chain_name AS "chainName", reason, changed_at AS "changedAt"
     FROM reference_change JOIN comparison ON comparison.id = comparison_id
     WHERE ${SEEN} AND comparison.deleted_at IS NULL
     ORDER BY reference_change.id DESC LIMIT 30`,
    [viewerId],
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

/** Names of chains by their ids; of those that were removed, too. */
export async function namesOfChains(
  db: Db,
  chainIds: readonly string[],
): Promise<Map<string, string>> {
  const rows = await db.rows<{ id: string; name: string }>(
    'SELECT id, name FROM chain WHERE id = ANY ($1::uuid[])',
    [chainIds],
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
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
