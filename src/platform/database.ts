import { AsyncLocalStorage } from 'node:async_hooks';
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

/** A client inside a transaction: what has to happen together, or waits for locks, asks for one. */
export interface Tx extends Db {
  readonly together: true;
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
      // Compiling a statement takes many times as long as any of ours runs.
      options: '-c jit=off',
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

/** What goes on around a call of `db()`: a transaction until it ends, or the reading of a page. */
interface Around {
  tx: Tx | null;
  /** What was asked so far, for who asks the same again. */
  asked: Map<string, Promise<unknown[]>> | null;
}
const around = new AsyncLocalStorage<Around>();

/** The bank. Inside a transaction that one: a second connection could wait for ever for the first. */
export function db(): Db {
  const { tx, asked } = around.getStore() ?? { tx: null, asked: null };
  if (tx) return tx;
  const own = dbOf(pool());
  if (!asked) return own;
  return {
    rows: async <R>(text: string, values: readonly Value[] = []) => {
      if (!text.trimStart().startsWith('SELECT')) {
        asked.clear();
        return own.rows<R>(text, values);
      }
      const key = JSON.stringify([text, values]);
      const rows = asked.get(key) ?? own.rows<R>(text, values);
      asked.set(key, rows);
      return [...((await rows) as R[])];
    },
  };
}

/** Reads for one page: what several steps ask alike is asked once, until something is written. */
export function readingOnce<T>(read: () => Promise<T>): Promise<T> {
  return around.run({ tx: null, asked: new Map() }, read);
}

/** All or nothing. */
export async function transaction<T>(work: (tx: Tx) => Promise<T>): Promise<T> {
  around.getStore()?.asked?.clear();
  const client = await pool().connect();
  const tx: Tx = { ...dbOf(client), together: true };
  const inside: Around = { tx, asked: null };
  let broken: Error | undefined;
  try {
    await client.query('BEGIN');
    const result = await around.run(inside, () => work(tx));
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch((rollback: unknown) => {
      broken = rollback instanceof Error ? rollback : new Error(String(rollback));
    });
    throw error;
  } finally {
    // What was begun inside and goes on after it finds the bank, not a client that is somebody else's.
    inside.tx = null;
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
