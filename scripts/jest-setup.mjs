import { rmSync } from 'node:fs';
import path from 'node:path';

/** Starts a PostgreSQL for the tests; every test file makes its own database in it. */
export default async function setup() {
  // Work of threads runs inside the tests' own process here, where it keeps connections waiting.
  process.env.DATABASE_WAIT_MS = '60000';
  const root = path.resolve(import.meta.dirname, '..');
  // What tests keep for each other is made anew by each run.
  rmSync(path.join(root, '.zeitbank/jest-takes'), { recursive: true, force: true });
  const { startTestDatabase } = await import('../dist/services/test-database.mjs');
  globalThis.zeitbankTestCluster = await startTestDatabase(path.join(root, '.zeitbank/jest'), root);
}
