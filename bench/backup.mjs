// A whole bank there and back: `node bench/backup.mjs [gigabytes]` fills a demo bank with so much sound (10), backs it up while it
// runs, restores it elsewhere, and holds every row and every sound of both against each other. Tells times, size and the most memory
// that the program and its helpers held; needs a build, and disk for three times the sound.
import { spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { pause, startBank } from './panel.mjs';

const root = path.resolve(import.meta.dirname, '..');
const GIGABYTES = Number(process.argv[2] ?? 10);
const CHUNK = 1 << 20;
const CHUNKS = 96;
const FILES = Math.max(1, Math.round((GIGABYTES * 1e9) / (CHUNK * CHUNKS)));
/** What a start and a restore write by themselves. */
const ON_THEIR_OWN = ['public.event', 'public.bank_copy', 'public.sign_in'];

async function withDatabase(url, work) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Noise that no compression makes smaller: slices of a pool, each file another way. */
async function fill(url) {
  const pool = randomBytes(64 * CHUNK);
  await withDatabase(url, async (client) => {
    for (let file = 0; file < FILES; file++) {
      const hash = createHash('sha256');
      await client.query('BEGIN');
      const { rows } = await client.query(
        'INSERT INTO audio (byte_length, created_at) VALUES ($1, now()) RETURNING id',
        [CHUNK * CHUNKS],
      );
      for (let seq = 0; seq < CHUNKS; seq++) {
        const at = (file * 977 + seq * 65_537) % (63 * CHUNK);
        const data = pool.subarray(at, at + CHUNK);
        hash.update(data);
        await client.query('INSERT INTO audio_chunk (audio_id, seq, data) VALUES ($1, $2, $3)', [
          rows[0].id,
          seq,
          data,
        ]);
      }
      await client.query('UPDATE audio SET sha256 = $2 WHERE id = $1', [
        rows[0].id,
        hash.digest('hex'),
      ]);
      await client.query('COMMIT');
    }
  });
}

/** Of every table how many rows there are and what they hold, without the sound itself. */
async function digests(url) {
  return withDatabase(url, async (client) => {
    const { rows: tables } = await client.query(
      `SELECT schemaname || '.' || tablename AS name FROM pg_tables
       WHERE schemaname = 'public' AND tablename <> 'audio_chunk' ORDER BY 1`,
    );
    const found = new Map();
    for (const { name } of tables) {
      const { rows } = await client.query(
        `SELECT count(*)::int AS n, md5(coalesce(string_agg(md5(t::text), '' ORDER BY md5(t::text)), '')) AS said FROM ${name} AS t`,
      );
      found.set(name, `${rows[0].n} rows ${rows[0].said}`);
    }
    return found;
  });
}

/** Sounds whose bytes are not what their SHA-256 says. */
async function spoiltSounds(url) {
  return withDatabase(url, async (client) => {
    const { rows: all } = await client.query(
      'SELECT id, sha256 FROM audio WHERE sha256 IS NOT NULL',
    );
    let spoilt = 0;
    for (const { id, sha256 } of all) {
      const hash = createHash('sha256');
      for (let seq = 0; ; seq += 16) {
        const { rows } = await client.query(
          'SELECT data FROM audio_chunk WHERE audio_id = $1 AND seq >= $2 ORDER BY seq LIMIT 16',
          [id, seq],
        );
        for (const { data } of rows) hash.update(data);
        if (rows.length < 16) break;
      }
      if (hash.digest('hex') !== sha256) spoilt++;
    }
    return { spoilt, all: all.length };
  });
}

/** Memory of a process and all that it started, without the database's server. */
function heldBy(pid) {
  let kb = 0;
  const parents = new Map();
  for (const entry of readdirSync('/proc')) {
    if (!/^\d+$/.test(entry)) continue;
    try {
      const stat = readFileSync(`/proc/${entry}/stat`, 'utf8');
      parents.set(Number(entry), Number(stat.split(') ')[1].split(' ')[1]));
    } catch {
      // It ended while we looked.
    }
  }
  const isOurs = (own) => own === pid || (parents.has(own) && isOurs(parents.get(own)));
  for (const own of parents.keys()) {
    if (!isOurs(own)) continue;
    try {
      const name = readFileSync(`/proc/${own}/comm`, 'utf8').trim();
      if (name === 'postgres') continue;
      kb += Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${own}/status`, 'utf8'))?.[1] ?? 0);
    } catch {
      // It ended while we looked.
    }
  }
  return kb / 1024;
}

/** Runs the command. @returns how long it took, and the most memory it held */
async function run(data, ...args) {
  const began = Date.now();
  const env = { ...process.env, ZEITBANK_ROOT: root, ZEITBANK_DATA: data };
  delete env.DATABASE_URL;
  const child = spawn(process.execPath, ['dist/services/backup.mjs', ...args], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (text) => (said += text));
  let code = null;
  child.once('exit', (status) => (code = status ?? 1));
  let most = 0;
  while (code === null) {
    most = Math.max(most, heldBy(child.pid));
    await pause(200);
  }
  if (code !== 0) throw new Error(said);
  return { seconds: Math.round((Date.now() - began) / 1000), mb: Math.round(most) };
}

const bank = await startBank(4393);
const folder = mkdtempSync(path.join(os.tmpdir(), 'zeitbank-backup-'));
chmodSync(folder, 0o755);
try {
  await fill(bank.databaseUrl);
  const file = path.join(folder, 'bank.zip');
  const before = await digests(bank.databaseUrl);
  const backup = await run(bank.data, 'backup', file);
  const gigabytes = statSync(file).size / 1e9;
  const elsewhere = path.join(folder, 'bank');
  const restore = await run(elsewhere, 'restore', file);
  rmSync(file);
  const again = await startBank(4394, { at: elsewhere });
  try {
    const after = await digests(again.databaseUrl);
    const other = [...before].filter(([name, said]) => after.get(name) !== said);
    const { spoilt, all } = await spoiltSounds(again.databaseUrl);
    const changed = other.map(([name]) => name).filter((name) => !ON_THEIR_OWN.includes(name));
    console.log(
      `${gigabytes.toFixed(1)} GB: backed up in ${backup.seconds} s with at most ${backup.mb} MB of memory, ` +
        `restored in ${restore.seconds} s with at most ${restore.mb} MB; ${before.size - other.length} of ${before.size} tables alike row by row ` +
        `(others: ${other.map(([name]) => name).join(', ') || 'none'}); ${all - spoilt} of ${all} sounds whole`,
    );
    if (changed.length > 0 || spoilt > 0 || backup.mb > 300 || restore.mb > 300)
      process.exitCode = 1;
  } finally {
    await again.stop();
  }
} finally {
  await bank.stop();
  rmSync(folder, { recursive: true, force: true });
}
