import type { CarriedRow, CarriedTable } from '@/platform/carried';
import type { Tx } from '@/platform/database';
import { brief } from './schema';

/** The comparison itself; in the other bank its row is there already. */
export const CARRIED_COMPARISON: CarriedTable = {
  table: 'comparison',
  of: 'id = $1',
  leaves: ['owner_id', 'version', 'created_at', 'deleted_at'],
  shapes: { brief },
};

export const CARRIED: readonly CarriedTable[] = [
  { table: 'source', of: 'comparison_id = $1' },
  { table: 'passage', of: 'comparison_id = $1' },
];

/** What stands for source and passage until a whole comparison arrives. */
export const AWAITED = { sourceName: 'a whole comparison', passageName: 'on its way' };

/** Locks a comparison. @returns whether it is but a place for one that is on its way */
export async function awaitsArrival(tx: Tx, comparisonId: string): Promise<boolean> {
  const { sourceName, passageName } = AWAITED;
  const rows = await tx.rows(
    `SELECT 1 FROM comparison WHERE id = $1 AND question = ''
       AND ARRAY[$2] = (SELECT array_agg(name) FROM source WHERE comparison_id = $1)
       AND ARRAY[$3] = (SELECT array_agg(name) FROM passage WHERE comparison_id = $1) FOR UPDATE`,
    [comparisonId, sourceName, passageName],
  );
  return rows.length > 0;
}

/** Takes away what stood for what arrives. */
export async function clearForArrival(tx: Tx, comparisonId: string): Promise<void> {
  await tx.rows('DELETE FROM passage WHERE comparison_id = $1', [comparisonId]);
  await tx.rows('DELETE FROM source WHERE comparison_id = $1', [comparisonId]);
}

/** Makes a comparison what came from elsewhere; its chains are there. */
export async function becomeArrived(tx: Tx, comparisonId: string, row: CarriedRow): Promise<void> {
  await tx.rows(
    `UPDATE comparison SET title = came.title, question = came.question, simulated = came.simulated, brief = came.brief,
       programme = came.programme, reference_chain_id = came.reference_chain_id, version = comparison.version + 1
     FROM jsonb_populate_record(NULL::comparison, $2::jsonb) AS came WHERE comparison.id = $1`,
    [comparisonId, JSON.stringify(row)],
  );
}

/** The comparison of this bank that sources belong to already, by its title; null where none does. */
export async function titleOfSources(tx: Tx, ids: readonly string[]): Promise<string | null> {
  const [row] = await tx.rows<{ title: string }>(
    `SELECT title FROM comparison WHERE id IN (SELECT comparison_id FROM source WHERE id = ANY($1::uuid[])) LIMIT 1`,
    [ids],
  );
  return row?.title ?? null;
}
