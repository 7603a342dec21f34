import path from 'node:path';
import { runner } from 'node-pg-migrate';

/**
 * Brings the schema up to date; safe to run from several processes (it takes a lock).
 * @param back how many steps to take back instead
 */
export async function migrate(databaseUrl: string, root: string, back = 0): Promise<void> {
  await runner({
    databaseUrl,
    dir: path.join(root, 'db/migrations'),
    ...(back > 0 ? { direction: 'down', count: back } : { direction: 'up' }),
    migrationsTable: 'migration',
    log: () => undefined,
  });
}
