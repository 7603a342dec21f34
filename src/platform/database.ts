import { createHash } from 'node:crypto';
import pg from 'pg';
import { config } from './config';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Value =
  string | number | boolean | null | Date | Buffer | readonly (string | number | null)[];

/** The pool, or a client inside a transaction. */
export interface Db {
  /** Runs one statement with parameters and returns its rows. */
  rows<R>(text: string, values?: readonly Value[]): Promise<R[]>;
}

const STATEMENT_TIMEOUT_MS = 60000;

const shared = globalThis as { zeitbankPool?: pg.Pool };

/** The process's connections; made on first use. */
export function pool(): pg.Pool {
  if (!shared.zeitbankPool) {
    const { DATABASE_URL, DATABASE_WAIT_MS } = config();
    shared.zeitbankPool = new pg.Pool({
      connectionString: DATABASE_URL,
      max: 10,
      connectionTimeoutMillis: DATABASE_WAIT_MS,
      statement_timeout: STATEMENT_TIMEOUT_MS,
      keepAlive: true,
    });
    // An idle connection that breaks is replaced at the next use.
    shared.zeitbankPool.on('error', () => undefined);
  }
  return shared.zeitbankPool;
}

const names = new Map<string, string>();

/** Statements are planned once per connection: the same few are asked many times a second. */
function nameOf(text: string): string {
  let name = names.get(text);
  if (!name) {
    name = createHash('sha256').update(text).digest('base64url').slice(0, 32);
    names.set(text, name);
  }
  return name;
}

export function dbOf(client: pg.Pool | pg.ClientBase): Db {
  return {
    rows: async <R>(text: string, values: readonly Value[] = []) => {
      const result = await client.query({ name: nameOf(text), text, values: [...values] });
      return result.rows as R[];
    },
  };
}

export function db(): Db {
  return dbOf(pool());
}

/** All or nothing. */
export async function transaction<T>(work: (db: Db) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  let broken: Error | undefined;
  try {
    await client.query('BEGIN');
    const result = await work(dbOf(client));
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch((rollback: unknown) => {
      broken = rollback instanceof Error ? rollback : new Error(String(rollback));
    });
    throw error;
  } finally {
    client.release(broken);
  }
}

/** Whether an error is the violation of a unique constraint or index of this name. */
export function violatesUnique(error: unknown, constraint: string): boolean {
  return (
    error instanceof pg.DatabaseError && error.code === '23505' && error.constraint === constraint
  );
}

/** Whether an error says that other rows still depend on what was to be deleted. */
export function violatesForeignKey(error: unknown): boolean {
  return error instanceof pg.DatabaseError && error.code === '23503';
}

export async function endPool(): Promise<void> {
  await shared.zeitbankPool?.end();
  shared.zeitbankPool = undefined;
}
