import path from 'node:path';
import { runner } from 'node-pg-migrate';

/** Brings the schema up to date; safe to run from several processes (it takes a lock). */
export async function migrate(databaseUrl: string, root: string): Promise<void> {
  await runner({
    databaseUrl,
    dir: path.join(root, 'db/migrations'),
    direction: 'up',
    migrationsTable: 'migration',
    log: () => undefined,
  });
}
