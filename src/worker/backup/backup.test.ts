import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Writable } from 'node:stream';
import pg from 'pg';
import { db } from '@/platform/database';
import { into } from '@/platform/stream-into';
import { migrate } from '@/platform/migrate';
import { testEngineer, withTestDatabase } from '@/platform/test/database';
import { bankWithTakes } from '@/steps/test/bank';
import { backUp, recordRestored, restore } from './bank';
import { type Manifest, manifestOf, withBackup, writeBackup } from './file';

withTestDatabase();

const root = path.resolve(__dirname, '../../..');
let folder: string;
let source: string;
const made: string[] = [];

async function asked<T extends pg.QueryResultRow>(url: string, text: string): Promise<T[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(text)).rows;
  } finally {
    await client.end();
  }
}

/** Another database of the same server, with nothing in it. */
async function emptyDatabase(): Promise<string> {
  const name = `restored_${randomUUID().replaceAll('-', '')}`;
  await db().rows(`CREATE DATABASE ${name}`);
  made.push(name);
  const url = new URL(source);
  url.pathname = `/${name}`;
  return url.toString();
}

/** Every table of a schema with a hash over all its rows. */
async function contentOf(url: string, schema = 'public'): Promise<Record<string, string>> {
  const tables = await asked<{ name: string }>(
    url,
    `SELECT relname AS name FROM pg_class WHERE relkind = 'r' AND relnamespace = '${schema}'::regnamespace ORDER BY 1`,
  );
  const content: Record<string, string> = {};
  for (const { name } of tables) {
    const [row] = await asked<{ hash: string }>(
      url,
      `SELECT count(*) || ' ' || coalesce(md5(string_agg(md5(t::text), '' ORDER BY md5(t::text))), '') AS hash
       FROM ${schema}."${name}" AS t`,
    );
    content[name] = row!.hash;
  }
  return content;
}

/** The columns of every table. */
async function columnsOf(url: string): Promise<Record<string, string>> {
  const rows = await asked<{ name: string; columns: string }>(
    url,
    `SELECT table_name AS name, string_agg(column_name, ' ' ORDER BY ordinal_position) AS columns
     FROM information_schema.columns WHERE table_schema = 'public' GROUP BY table_name`,
  );
  return Object.fromEntries(rows.map(({ name, columns }) => [name, columns]));
}

/** How many steps of the schema an older program is behind. */
const STEPS_BACK = 2;

const fileOf = (name: string) => path.join(folder, name);

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'backup-'));
  source = process.env.DATABASE_URL ?? '';
  await bankWithTakes(await testEngineer('Mirela Voss'));
});
afterAll(async () => {
  rmSync(folder, { recursive: true });
  // The bank of this file is gone by now.
  const server = new URL(source);
  server.pathname = '/postgres';
  for (const name of made) await asked(server.toString(), `DROP DATABASE ${name} WITH (FORCE)`);
});

describe('a backup', () => {
  let manifest: Manifest;
  let target: string;
  beforeAll(async () => {
    // Somebody goes on working meanwhile; what they write is of a later moment.
    const before = await contentOf(source);
    const keeping = backUp(source, fileOf('bank.zip'));
    const others = setInterval(() => {
      void db()
        .rows("INSERT INTO secret (name, value) VALUES ($1, 'later')", [randomUUID()])
        .catch(() => undefined);
    }, 5);
    manifest = await keeping.finally(() => clearInterval(others));
    target = await emptyDatabase();
    await restore(target, fileOf('bank.zip'), root);
    const after = await contentOf(target);
    // All but what was written meanwhile, of which the backup says how much it holds.
    for (const [table, hash] of Object.entries(before)) {
      if (table !== 'secret') expect([table, after[table]]).toEqual([table, hash]);
      expect(Number(after[table]?.split(' ')[0])).toBe(manifest.rows[`public.${table}`]);
    }
  });

  it('brings every row and every sound back, byte for byte', async () => {
    const sound = 'SELECT count(*)::int AS n, sum(length(data))::int AS bytes FROM audio_chunk';
    expect(await asked(target, sound)).toEqual(await asked(source, sound));
    expect(manifest.rows['public.take']).toBe(3);
  });

  it('goes nowhere where something is already, until told to keep that aside', async () => {
    const before = await contentOf(target);
    await expect(restore(target, fileOf('bank.zip'), root)).rejects.toThrow(
      /it was kept; say --in-place/,
    );
    expect(await contentOf(target)).toEqual(before);
    const { aside } = await restore(target, fileOf('bank.zip'), root, { inPlace: true });
    expect(await contentOf(target, `${aside}_public`)).toEqual(before);
    // And what is aside is in no later backup.
    await backUp(target, fileOf('again.zip'));
    const third = await emptyDatabase();
    await restore(third, fileOf('again.zip'), root);
    expect(await contentOf(third)).toEqual(await contentOf(target));
    expect(await asked(third, "SELECT 1 FROM pg_namespace WHERE nspname LIKE 'aside%'")).toEqual(
      [],
    );
  });

  it('says in its log that it was brought back, after all that stood there', async () => {
    const third = await emptyDatabase();
    const { manifest: back } = await restore(third, fileOf('bank.zip'), root);
    await asked(
      third,
      "INSERT INTO sign_in (account_id, started_at) SELECT id, now() FROM account WHERE role = 'owner'",
    );
    await recordRestored(third, back, new Date('2026-11-29T10:00:00Z'));
    const entries = await asked(
      third,
      `SELECT record::jsonb ->> 'action' AS action, record::jsonb ->> 'about' AS about,
         record::jsonb ->> 'before' = lag(sha256) OVER (ORDER BY n) AS follows
       FROM event WHERE studio_id = (SELECT id FROM account WHERE role = 'owner' ORDER BY created_at LIMIT 1) ORDER BY n`,
    );
    expect(entries.at(-1)).toMatchObject({
      action: 'restored',
      about: `as it was ${back.madeAt}`,
    });
    expect(entries.slice(1).every((entry) => entry['follows'] === true)).toBe(true);
    // Nobody is signed in who was then.
    expect(await asked(third, 'SELECT FROM sign_in WHERE ended_at IS NULL')).toEqual([]);
    await expect(asked(third, 'DELETE FROM event')).rejects.toThrow('permission denied');
  });

  it('of an older program is brought up to date', async () => {
    const older = await emptyDatabase();
    await restore(older, fileOf('bank.zip'), root);
    await migrate(older, root, STEPS_BACK);
    const before = await contentOf(older);
    await backUp(older, fileOf('older.zip'));
    const now = await emptyDatabase();
    await restore(now, fileOf('older.zip'), root);
    const after = await contentOf(now);
    // No row is lost, whatever columns a table got since; and what got none is the same, byte for byte.
    const rows = (content: Record<string, string>, table: string) => content[table]?.split(' ')[0];
    expect(Number(rows(after, 'migration'))).toBe(Number(rows(before, 'migration')) + STEPS_BACK);
    for (const table of Object.keys(before).filter((name) => name !== 'migration')) {
      expect([table, rows(after, table)]).toEqual([table, rows(before, table)]);
    }
    const [then, today] = [await columnsOf(older), await columnsOf(now)];
    const same = Object.keys(before).filter((table) => then[table] === today[table]);
    expect(same).toEqual(expect.arrayContaining(['audio', 'audio_chunk', 'chain']));
    for (const table of same.filter((name) => name !== 'migration')) {
      expect([table, after[table]]).toEqual([table, before[table]]);
    }
  });

  it('leaves what was there when it breaks in the middle', async () => {
    const before = await contentOf(target);
    const broken = restore(target, fileOf('bank.zip'), root, {
      inPlace: true,
      told: (what) => {
        if (what !== 'Bringing it back.') return;
        setTimeout(() => spawnSync('pkill', ['-9', '-P', String(process.pid), 'psql']), 150);
      },
    });
    await expect(broken).rejects.toThrow();
    expect(await contentOf(target)).toEqual(before);
  });

  it('is not brought back under somebody who is working', async () => {
    await db().rows('SELECT 1');
    await expect(restore(source, fileOf('bank.zip'), root, { inPlace: true })).rejects.toThrow(
      'somebody is working with this bank',
    );
  });

  it('writes over no other file, and says where it cannot write', async () => {
    await expect(backUp(source, fileOf('bank.zip'))).rejects.toThrow(
      'is there already and was kept',
    );
    const nowhere = path.join(folder, 'no', 'bank.zip');
    await expect(backUp(source, nowhere)).rejects.toThrow('cannot be written (ENOENT)');
    await backUp(source, fileOf('twice.zip'));
    await backUp(source, fileOf('twice.zip'), { force: true });
    expect(existsSync(`${fileOf('twice.zip')}.part`)).toBe(false);
  });

  it('that is locked opens with its passphrase alone', async () => {
    const passphrase = 'lantern under snow';
    await backUp(source, fileOf('locked.zip'), { passphrase });
    const opened = await emptyDatabase();
    await expect(restore(opened, fileOf('locked.zip'), root)).rejects.toThrow(
      'give its passphrase',
    );
    await expect(
      restore(opened, fileOf('locked.zip'), root, { passphrase: 'lantern under sand' }),
    ).rejects.toThrow('this is not the passphrase');
    expect(await asked(opened, "SELECT 1 FROM pg_class WHERE relname = 'account'")).toEqual([]);
    await restore(opened, fileOf('locked.zip'), root, { passphrase });
    expect((await contentOf(opened)).audio_chunk).toBe((await contentOf(source)).audio_chunk);
    // The names in it are not to be read in the file, packed or not.
    const bytes = readFileSync(fileOf('locked.zip'));
    expect(bytes.includes('PGDMP')).toBe(false);
    expect(readFileSync(fileOf('bank.zip')).includes('PGDMP')).toBe(true);
  });

  it.each([
    ['cut off', (bytes: Buffer) => bytes.subarray(0, 100_000), 'ends after 100000 bytes'],
    ['something else', () => Buffer.from('RIFF'), 'no whole backup'],
    [
      'damaged',
      (bytes: Buffer) => {
        bytes[200_000]! ^= 1;
        return bytes;
      },
      'damaged between bytes 0 and',
    ],
    [
      'damaged at its head',
      (bytes: Buffer) => {
        bytes[bytes.indexOf('zeitbank backup')]! ^= 1;
        return bytes;
      },
      'manifest.json',
    ],
  ])('that is %s is refused before anything changes', async (_, spoil, said) => {
    const spoilt = fileOf(`${randomUUID()}.zip`);
    writeFileSync(spoilt, spoil(readFileSync(fileOf('bank.zip'))));
    const before = await contentOf(target);
    await expect(restore(target, spoilt, root, { inPlace: true })).rejects.toThrow(said);
    expect(await contentOf(target)).toEqual(before);
  });
});

it('from a newer program is refused, naming the step that is not known', async () => {
  const migrations = ['0001_foundation', '9999_from_the_future'];
  const manifest = manifestOf({ madeAt: '2031-01-01', postgres: '150004', migrations, rows: {} });
  const content = new Blob([new Uint8Array(10)]).stream() as ReadableStream<Uint8Array>;
  await writeBackup(fileOf('newer.zip'), manifest, content);
  await expect(restore(await emptyDatabase(), fileOf('newer.zip'), root)).rejects.toThrow(
    '9999_from_the_future is not known here',
  );
});

it('names the block that is damaged, however it is cut into parts', async () => {
  const bytes = new Uint8Array((1 << 24) + 1000).map((_, i) => i % 251);
  const manifest = manifestOf({ madeAt: '', postgres: '150004', migrations: ['a'], rows: {} });
  const parts = new Blob([bytes]).stream() as ReadableStream<Uint8Array>;
  await writeBackup(fileOf('blocks.zip'), manifest, parts);
  await withBackup(fileOf('blocks.zip'), (backup) => backup.verify());
  const whole = readFileSync(fileOf('blocks.zip'));
  const start = whole.indexOf(Buffer.from(bytes.subarray(0, 300)));
  whole[start + (1 << 24) + 5]! ^= 1;
  writeFileSync(fileOf('blocks-bad.zip'), whole);
  await expect(withBackup(fileOf('blocks-bad.zip'), (backup) => backup.verify())).rejects.toThrow(
    'damaged between bytes 16777216 and 16778216 of bank.dump',
  );
});

it('waits for a slow stick instead of keeping what it has not taken in memory', async () => {
  let [given, taken, most] = [0, 0, 0];
  const slow = new Writable({
    write(_, __, done) {
      taken++;
      setImmediate(done);
    },
  });
  const source = new ReadableStream<Uint8Array>(
    {
      pull(on) {
        if (given === 200) return on.close();
        most = Math.max(most, ++given - taken);
        on.enqueue(new Uint8Array(1000));
      },
    },
    { highWaterMark: 0 },
  );
  await source.pipeTo(into(slow));
  expect(taken).toBe(200);
  expect(most).toBeLessThanOrEqual(3);
});
