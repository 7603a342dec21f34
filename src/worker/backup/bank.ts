import { existsSync, readdirSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ReadableStream as WebReadable } from 'node:stream/web';
import pg from 'pg';
import { dbOf, type Tx } from '@/platform/database';
import { entryAfter } from '@/platform/events/chain';
import { insertEntry, lastEntry } from '@/platform/events/store';
import { migrate } from '@/platform/migrate';
import { into } from '@/platform/stream-into';
import {
  type Backup,
  BackupError,
  type Manifest,
  manifestOf,
  withBackup,
  writeBackup,
} from './file';
import { runTool, signInOf, toolsFor } from './postgres';

/** Schemas of what was kept aside by a restore; they are in no backup. */
const ASIDE = 'aside_';
const HELD = `nspname NOT LIKE 'pg\\_%' AND nspname <> 'information_schema' AND nspname NOT LIKE '${ASIDE}%'`;

async function connected<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end().catch(() => undefined);
  }
}

async function one<T extends pg.QueryResultRow>(client: pg.Client, text: string): Promise<T> {
  const { rows } = await client.query<T>(text);
  return rows[0]!;
}

/** Every table of the bank, schema and name. */
async function tablesOf(client: pg.Client): Promise<string[]> {
  const { rows } = await client.query<{ name: string }>(
    `SELECT pg_class.oid::regclass::text AS name, nspname, relname FROM pg_class
     JOIN pg_namespace ON pg_namespace.oid = relnamespace WHERE relkind = 'r' AND ${HELD} ORDER BY nspname, relname`,
  );
  return rows.map(({ name }) => (name.includes('.') ? name : `public.${name}`));
}

async function rowsOf(client: pg.Client): Promise<Record<string, number>> {
  const rows: Record<string, number> = {};
  for (const table of await tablesOf(client)) {
    rows[table] = Number(
      (await one<{ n: string }>(client, `SELECT count(*) AS n FROM ${table}`)).n,
    );
  }
  return rows;
}

const versionOf = async (client: pg.Client) =>
  Number(
    (await one<{ server_version_num: string }>(client, 'SHOW server_version_num'))
      .server_version_num,
  );

async function migrationsOf(client: pg.Client): Promise<string[]> {
  const { there } = await one<{ there: boolean }>(
    client,
    "SELECT to_regclass('public.migration') IS NOT NULL AS there",
  );
  if (!there) return [];
  const { rows } = await client.query<{ name: string }>('SELECT name FROM migration ORDER BY id');
  return rows.map(({ name }) => name);
}

/**
 * Keeps the whole bank as it is in one moment, while people go on working: one snapshot, streamed into one file that
 * has its name only once it is whole.
 * @param told bytes so far
 * @throws BackupError
 */
export async function backUp(
  url: string,
  file: string,
  {
    force = false,
    passphrase = null,
    told,
  }: { force?: boolean; passphrase?: string | null; told?: (bytes: number) => void } = {},
): Promise<Manifest> {
  if (existsSync(file) && !force) {
    throw new BackupError(
      `${file} is there already and was kept; choose another name, or say --force`,
    );
  }
  return connected(url, async (client) => {
    const server = await versionOf(client);
    const bin = toolsFor(server);
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const { snapshot } = await one<{ snapshot: string }>(
      client,
      'SELECT pg_export_snapshot() AS snapshot',
    );
    const manifest = manifestOf(
      {
        madeAt: new Date().toISOString(),
        postgres: String(server),
        migrations: await migrationsOf(client),
        rows: await rowsOf(client),
      },
      passphrase,
    );
    if (manifest.migrations.length === 0)
      throw new BackupError('there is no bank in this database yet');
    const { args, env } = signInOf(url);
    const how = ['--format=custom', '--compress=1', '--no-owner', '--no-privileges'];
    const { child, ended } = runTool(
      bin,
      'pg_dump',
      [...args, ...how, `--exclude-schema=${ASIDE}*`, `--snapshot=${snapshot}`],
      env,
    );
    child.stdin!.end();
    const part = `${file}.part`;
    try {
      const dump = WebReadable.from(child.stdout!) as ReadableStream<Uint8Array>;
      await writeBackup(part, manifest, dump, { passphrase, told });
      await ended;
      renameSync(part, file);
    } catch (error) {
      child.kill('SIGKILL');
      rmSync(part, { force: true });
      throw inWords(error, file);
    }
    return manifest;
  });
}

/** A disk that is full, or a stick that is gone, in a sentence. */
function inWords(error: unknown, file: string): unknown {
  const code = (error as NodeJS.ErrnoException | undefined)?.code;
  if (code === 'ENOSPC')
    return new BackupError(`there is no room for ${file}; what was begun was taken away again`);
  if (code !== undefined && /^E[A-Z]+$/.test(code)) {
    return new BackupError(`${file} cannot be written (${code}); nothing was kept there`);
  }
  return error;
}

/** Whether somebody put something into the bank that is there. */
async function isUsed(client: pg.Client): Promise<boolean> {
  if ((await migrationsOf(client)).length === 0) return (await tablesOf(client)).length > 0;
  const { used } = await one<{ used: boolean }>(
    client,
    `SELECT EXISTS (SELECT FROM account) OR EXISTS (SELECT FROM audio) OR EXISTS (SELECT FROM comparison) AS used`,
  );
  return used;
}

/** Moves what is there aside, or takes it away where nobody put anything in. */
async function clearing(client: pg.Client, aside: string | null): Promise<string[]> {
  const { rows } = await client.query<{ nspname: string }>(
    `SELECT nspname FROM pg_namespace WHERE ${HELD}`,
  );
  return rows.map(({ nspname }) =>
    aside === null
      ? `DROP SCHEMA "${nspname}" CASCADE;`
      : `ALTER SCHEMA "${nspname}" RENAME TO "${aside}_${nspname}";`,
  );
}

/** Ends the transaction with an error where a table has not as many rows as the backup says. */
function counting(rows: Manifest['rows']): string {
  const checks = Object.entries(rows).map(
    ([table, n]) =>
      `IF (SELECT count(*) FROM ${table}) <> ${n} THEN RAISE EXCEPTION 'not all rows of ${table.replaceAll("'", "''")} came back'; END IF;`,
  );
  return `DO $check$ BEGIN ${checks.join(' ')} END $check$;\n`;
}

/**
 * Brings a backup back: into an empty bank, or in place of one that is kept aside in the same database. All of it
 * happens in one transaction, so that whatever breaks in between leaves what was there.
 * @param inPlace whether a bank with something in it may be moved aside
 * @returns the name under which what was there is kept; null where nothing was
 * @throws BackupError before anything changes where the file is not whole, or newer than this program
 */
export async function restore(
  url: string,
  file: string,
  root: string,
  {
    inPlace = false,
    passphrase = null,
    told = () => undefined,
  }: { inPlace?: boolean; passphrase?: string | null; told?: (what: string) => void } = {},
): Promise<{ aside: string | null; manifest: Manifest }> {
  return withBackup(file, (backup) =>
    bringBack(url, backup, { file, root, inPlace, passphrase, told }),
  );
}

async function bringBack(
  url: string,
  backup: Backup,
  {
    file,
    root,
    inPlace,
    passphrase,
    told,
  }: {
    file: string;
    root: string;
    inPlace: boolean;
    passphrase: string | null;
    told: (what: string) => void;
  },
): Promise<{ aside: string | null; manifest: Manifest }> {
  const { manifest } = backup;
  const known = new Set(
    readdirSync(path.join(root, 'db/migrations')).map((name) => name.replace(/\.sql$/, '')),
  );
  const newer = manifest.migrations.find((name) => !known.has(name));
  if (newer !== undefined) {
    throw new BackupError(
      `${file} was made by a newer Zeitbank (its step ${newer} is not known here); nothing was changed. Bring this program up to date first`,
    );
  }
  told('Reading the file through.');
  await backup.verify();
  await backup.unlock(passphrase);
  return connected(url, async (client) => {
    const server = await versionOf(client);
    if (Math.floor(server / 10_000) < Math.floor(Number(manifest.postgres) / 10_000)) {
      throw new BackupError(
        `${file} comes from a newer PostgreSQL (${Math.floor(Number(manifest.postgres) / 10_000)}) than this one; nothing was changed`,
      );
    }
    const { busy } = await one<{ busy: string }>(
      client,
      `SELECT count(*) AS busy FROM pg_stat_activity
       WHERE datname = current_database() AND pid <> pg_backend_pid() AND backend_type = 'client backend'`,
    );
    if (Number(busy) > 0) {
      throw new BackupError(
        'somebody is working with this bank; stop Zeitbank first, then bring the backup back. Nothing was changed',
      );
    }
    const used = await isUsed(client);
    if (used && !inPlace) {
      throw new BackupError(
        'there is a bank in this place already, and it was kept; say --in-place to have it kept aside and the backup put there',
      );
    }
    const stamp = new Date().toISOString().replace(/\D/g, '').slice(0, 14);
    const aside = used ? `${ASIDE}${stamp}` : null;
    const bin = toolsFor(server);
    const { args, env } = signInOf(url);
    told('Bringing it back.');
    const psql = runTool(
      bin,
      'psql',
      [...args, '-X', '-q', '-v', 'ON_ERROR_STOP=1', '-o', '/dev/null', '-f', '-'],
      env,
    );
    const archive = runTool(bin, 'pg_restore', ['--no-owner', '--no-privileges', '-f', '-'], env);
    // Whoever ends first ends the other; what is not committed by the last line is taken back.
    const failed = psql.ended.catch((error: unknown) => {
      archive.child.kill('SIGKILL');
      throw error;
    });
    // It is asked for below; until then nobody else has to hear of it.
    failed.catch(() => undefined);
    // No archive makes this schema: every database is taken to have it.
    const prelude = [
      'BEGIN;',
      'SET client_min_messages = warning;',
      ...(await clearing(client, aside)),
      'CREATE SCHEMA public;',
    ];
    psql.child.stdin!.write(`${prelude.join('\n')}\n`);
    const fed = backup.dump(into(archive.child.stdin!), passphrase);
    archive.child.stdout!.pipe(psql.child.stdin!, { end: false });
    try {
      await Promise.all([archive.ended, fed]);
    } catch (error) {
      psql.child.stdin!.destroy();
      // What psql says comes first: a broken pipe is only what follows from it.
      await failed;
      throw error;
    }
    psql.child.stdin!.end(`${counting(manifest.rows)}COMMIT;\n`);
    await failed;
    told('Bringing it up to date.');
    await migrate(url, root);
    return { aside, manifest };
  });
}

/**
 * Writes into the log of a bank that was brought back that it was, and as of when. Everybody signs in anew: a device
 * that was shut out since then does not come back with it.
 */
export async function recordRestored(
  url: string,
  { madeAt }: Manifest,
  at: Date,
  by = 'The command line',
): Promise<void> {
  await connected(url, async (client) => {
    const tx: Tx = { ...dbOf(client), together: true };
    await tx.rows('BEGIN');
    const owners = await tx.rows<{ id: string }>(`SELECT id FROM account WHERE role = 'owner'`);
    for (const { id } of owners) {
      const told = {
        at: at.toISOString(),
        accountId: '',
        by,
        action: 'restored' as const,
        about: `as it was ${madeAt}`,
        comparisonId: null,
      };
      const entry = entryAfter(await lastEntry(tx, id), told);
      await insertEntry(tx, id, entry, { action: told.action, at });
    }
    await tx.rows('UPDATE sign_in SET ended_at = $1 WHERE ended_at IS NULL', [at]);
    // Rights do not travel in a backup.
    await tx.rows('REVOKE UPDATE, DELETE, TRUNCATE ON event FROM CURRENT_USER');
    await tx.rows('COMMIT');
  });
}
