import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { startCluster } from './cluster';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'cluster '));
  // As root the server runs as another user, who must be able to enter.
  chmodSync(folder, 0o755);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function ask(url: string, text: string): Promise<Record<string, string>[]> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return (await client.query<Record<string, string>>(text)).rows;
  } finally {
    await client.end();
  }
}

it('keeps its data through a proper stop, a killed server and a killed starter', async () => {
  const first = await startCluster(folder);
  await ask(first.url, 'CREATE TABLE kept (word text)');
  await ask(first.url, `INSERT INTO kept VALUES ('once')`);
  // Lines 5 and 6 of its own notes: where it has a socket, and where it listens.
  const notes = readFileSync(path.join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n');
  expect(notes.slice(4, 6)).toEqual(['', '127.0.0.1']);
  await expect(ask(first.url.replace(/:[^:@]*@/, ':wrong@'), 'SELECT 1')).rejects.toThrow(
    /password/,
  );

  // The server is killed: it comes back on the same port.
  first.process().kill('SIGKILL');
  await new Promise((resolve) => first.process().once('exit', resolve));
  for (let i = 0; ; i++) {
    try {
      await first.restart();
      break;
    } catch (error) {
      if (i === 20) throw error;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
  }
  expect(await ask(first.url, 'SELECT word FROM kept')).toEqual([{ word: 'once' }]);

  // Whoever started it is gone without stopping it: the next start takes over.
  const second = await startCluster(folder);
  expect(await ask(second.url, 'SELECT word FROM kept')).toEqual([{ word: 'once' }]);
  await expect(ask(first.url, 'SELECT 1')).rejects.toThrow();
  await second.stop();
  await expect(ask(second.url, 'SELECT 1')).rejects.toThrow();
  expect(statSync(path.join(folder, 'postgres.secret')).mode & 0o077).toBe(0);
});

describe('with data in it', () => {
  const secret = () => path.join(folder, 'postgres.secret');
  const data = () => path.join(folder, 'postgres');
  const kept = async () => {
    const cluster = await startCluster(folder);
    const rows = await ask(cluster.url, 'SELECT word FROM kept');
    await cluster.stop();
    return rows.map(({ word }) => word);
  };

  it.each([
    ['is missing', () => rmSync(secret())],
    ['is empty', () => writeFileSync(secret(), '')],
    ['is damaged', () => writeFileSync(secret(), 'no password at all')],
    ['is another bank’s', () => writeFileSync(secret(), 'ab'.repeat(18))],
  ])('keeps it when its password %s', async (_, harm) => {
    harm();
    expect(await kept()).toEqual(['once']);
    expect(statSync(secret()).mode & 0o077).toBe(0);
    // Written down anew, so that the next start needs no more than this one.
    expect(await kept()).toEqual(['once']);
  });

  it.each([
    [
      'the version is missing',
      () => rmSync(path.join(data(), 'PG_VERSION')),
      /PG_VERSION is missing/,
    ],
    [
      'the version is damaged',
      () => writeFileSync(path.join(data(), 'PG_VERSION'), 'x'),
      /PG_VERSION is damaged/,
    ],
    [
      'it is of a version that is not installed',
      () => writeFileSync(path.join(data(), 'PG_VERSION'), '99'),
      /made by PostgreSQL 99/,
    ],
    [
      'its control file is damaged',
      () => writeFileSync(path.join(data(), 'global/pg_control'), 'x'),
      /the data is kept in/,
    ],
    ['its files were moved away', () => renameSync(data(), `${data()}.away`), /is not there now/],
  ])('leaves it alone and says where it lies when %s', async (_, harm, sentence) => {
    const whole = path.join(folder, 'whole');
    cpSync(data(), whole, { recursive: true, preserveTimestamps: true });
    harm();
    await expect(startCluster(folder)).rejects.toThrow(sentence);
    await expect(startCluster(folder)).rejects.toThrow(data());
    // All that was there is there, but for what the test itself took.
    const lies = existsSync(data()) ? data() : `${data()}.away`;
    expect(readdirSync(path.join(lies, 'base')).sort()).toEqual(
      readdirSync(path.join(whole, 'base')).sort(),
    );
    rmSync(lies, { recursive: true });
    renameSync(whole, data());
    if (process.getuid?.() === 0) spawnSync('chown', ['-R', 'postgres:postgres', data()]);
    expect(await kept()).toEqual(['once']);
  });

  it('takes over what an earlier layout kept under the superuser, and signs in as no superuser', async () => {
    const cluster = await startCluster(folder);
    const [own] = await ask(
      cluster.url,
      'SELECT rolsuper::text AS super, rolcreaterole::text AS roles FROM pg_roles WHERE rolname = current_user',
    );
    expect(own).toEqual({ super: 'false', roles: 'false' });
    await cluster.stop();
    // As it was: one superuser with a password, who owns all.
    const bin = path.join(
      '/usr/lib/postgresql',
      readFileSync(path.join(data(), 'PG_VERSION'), 'utf8').trim(),
      'bin',
    );
    const script = [
      'CREATE SCHEMA queue',
      "CREATE TYPE queue.state AS ENUM ('new', 'old')",
      'CREATE TABLE queue.job (id bigserial PRIMARY KEY, state queue.state, at bigint GENERATED ALWAYS AS IDENTITY)',
      'CREATE VIEW queue.jobs AS SELECT * FROM queue.job',
      'CREATE FUNCTION queue.one() RETURNS int LANGUAGE sql AS $$ SELECT 1 $$',
      'ALTER TABLE kept OWNER TO zeitbank',
      'ALTER DATABASE zeitbank OWNER TO zeitbank',
      'DROP ROLE zeitbank_app',
    ].join('\n');
    const args = ['--single', '-D', data(), 'zeitbank'];
    const identity =
      process.getuid?.() === 0 ? { uid: statSync(data()).uid, gid: statSync(data()).gid } : {};
    spawnSync(path.join(bin, 'postgres'), args, { cwd: data(), input: `${script}\n`, ...identity });

    const again = await startCluster(folder);
    await ask(again.url, `INSERT INTO kept VALUES ('twice')`);
    await ask(again.url, 'ALTER TABLE kept ADD COLUMN more int');
    await ask(again.url, `ALTER TYPE queue.state ADD VALUE 'older'`);
    await ask(again.url, `INSERT INTO queue.job (state) VALUES ('new')`);
    await ask(again.url, 'DROP SCHEMA queue CASCADE');
    expect((await ask(again.url, 'SELECT word FROM kept')).length).toBe(2);
    await again.stop();
  });
});
