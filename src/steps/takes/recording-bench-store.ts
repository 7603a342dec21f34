import type { Db } from '@/platform/database';
import { one } from '@/platform/one';

export async function insertBenchOrder(
  db: Db,
  comparisonId: string,
  plan: object,
  at: Date,
): Promise<string> {
  const { id } = await one(
    db.rows<{ id: string }>(
      'INSERT INTO bench_order (comparison_id, plan, created_at) VALUES ($1, $2, $3) RETURNING id',
      [comparisonId, JSON.stringify(plan), at],
    ),
  );
  return id;
}

export async function findBenchOrder(
  db: Db,
  id: string,
): Promise<{ comparisonId: string; plan: unknown; state: string } | null> {
  const [row] = await db.rows<{ comparisonId: string; plan: unknown; state: string }>(
    'SELECT comparison_id AS "comparisonId", plan, state FROM bench_order WHERE id = $1',
    [id],
  );
  return row ?? null;
}

/** @returns whether it was still waiting */
export async function finishBenchOrder(
  db: Db,
  id: string,
  state: 'ready' | 'failed',
): Promise<boolean> {
  const rows = await db.rows(
    `UPDATE bench_order SET state = $2 WHERE id = $1 AND state = 'waiting' RETURNING id`,
    [id, state],
  );
  return rows.length > 0;
}
