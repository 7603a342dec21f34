import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { isDue, isTrialDue, toThin } from '@/platform/copies/keeping';
import { COPY_FILE } from '@/platform/copies/order';
import {
  type BankCopy,
  brokenOff,
  copyFacts,
  insertCopy,
  insertFound,
  keptCopies,
  listCopies,
  markBegun,
  markFailed,
  markMade,
  markRemoved,
  markTried,
  unlistedOf,
  waitingCopy,
} from '@/platform/copies/store';
import { db, dbOf } from '@/platform/database';
import { missingBytes } from '@/platform/disk-space';
import { one } from '@/platform/one';
import { backUp, restore } from './backup/bank';
import { type Manifest, withBackup, rowsIn } from './backup/file';
import { type Cluster, startCluster } from './cluster';

/** Where copies of this bank are made, and from where. */
export interface CopyPlace {
  /** Of the bank's database. */
  url: string;
  /** The folder of the copies. */
  folder: string;
  /** Of the program. */
  root: string;
  passphrase: string | null;
}

/** Copies that are looked at at most when some are thinned out. */
const MOST_COPIES = 1000;
const CUT_OFF = 'its program ended in the middle; nothing of it was kept.';

/** The server that a copy is tried out in, while one is. */
let trial: Cluster | null = null;

const sentence = (error: unknown) =>
  `${error instanceof Error ? error.message : String(error)}.`.replace(/\.\.$/, '.');

/** Outside the bank's own folder, where the server's user may enter; always the same, so that leftovers are found. */
const trialFolder = (folder: string) =>
  path.join(
    os.tmpdir(),
    `zeitbank-trial-${createHash('sha256').update(path.resolve(folder)).digest('hex').slice(0, 16)}`,
  );

/** @returns whether the file is not there any more; a folder that is away, or shut, keeps it */
function takeAway(file: string): boolean {
  try {
    rmSync(file, { force: true });
    return true;
  } catch {
    return false;
  }
}

/** Makes, thins out and tries copies, as far as something is due; one process at a time does. */
export async function seeToCopies(place: CopyPlace, now: () => Date): Promise<void> {
  const client = new pg.Client({ connectionString: place.url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    const { free } = await one(
      dbOf(client).rows<{ free: boolean }>(
        "SELECT pg_try_advisory_lock(hashtextextended('copies of the bank', 5)) AS free",
      ),
    );
    if (!free) return;
    for (const copy of await brokenOff(db())) await finish(place.folder, copy);
    await endLeftTrial(place.folder).catch(() => undefined);
    await listFound(place.folder);
    if (isDue(await copyFacts(db()), now())) await insertCopy(db(), null, now());
    for (let copy = await waitingCopy(db()); copy; copy = await waitingCopy(db())) {
      await makeCopy(place, copy, now());
    }
    await thinOut(place.folder, now());
    await tryNewest(place, now());
  } finally {
    await client.end().catch(() => undefined);
  }
}

/**
 * What nobody works on any more: a file has its name only once it is whole, so where it is there only the word of it
 * was lost, as in a bank that was brought back from this very copy.
 */
async function finish(folder: string, { id, file }: BankCopy): Promise<void> {
  const whole = path.join(folder, file);
  const made = existsSync(whole) ? await factsOf(whole).catch(() => null) : null;
  if (made) return markMade(db(), id, made);
  takeAway(`${whole}.part`);
  return markFailed(db(), id, CUT_OFF);
}

async function factsOf(file: string) {
  return withBackup(file, async ({ manifest }) => madeOf(file, manifest));
}

function madeOf(file: string, manifest: Manifest) {
  return {
    madeAt: new Date(manifest.madeAt),
    bytes: statSync(file).size,
    rows: rowsIn(manifest),
  };
}

/**
 * Refuses what could fill a disk that the bank itself may lie on.
 * @throws Error with a sentence
 */
async function requireRoom(folder: string): Promise<void> {
  const { bytes } = await one(
    db().rows<{ bytes: number }>('SELECT pg_database_size(current_database())::float8 AS bytes'),
  );
  const missing = await missingBytes(folder, bytes);
  if (missing <= 0) return;
  throw new Error(
    `${folder} lacks ${(missing / 1e9).toFixed(1)} GB of the room that it may take; nothing was begun`,
  );
}

/** A folder that is away, or shut, holds nothing. */
function filesIn(folder: string): string[] {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}

/** Files that turned out to be no backups, so that they are not read again and again. */
const noBackups = new Set<string>();

/** Backups in the folder that this bank does not list: put there by hand, or made after what was brought back. */
async function foundIn(folder: string): Promise<string[]> {
  const backups = filesIn(folder).filter((file) => COPY_FILE.test(file) && !noBackups.has(file));
  return backups.length === 0 ? [] : unlistedOf(db(), backups);
}

async function listFound(folder: string): Promise<void> {
  for (const file of await foundIn(folder)) {
    const made = await factsOf(path.join(folder, file)).catch(() => null);
    if (made) await insertFound(db(), file, made);
    else noBackups.add(file);
  }
}

/** Whether something may have to be done, in a question that can be asked often. */
export async function somethingIsDue(now: Date, folder: string): Promise<boolean> {
  const facts = await copyFacts(db());
  const trialDue = facts.lastMadeAt !== null && isTrialDue(facts.lastTriedAt, now);
  if (isDue(facts, now) || trialDue || (await waitingCopy(db())) !== null) return true;
  // Begun, and by now perhaps nobody's.
  return (await brokenOff(db())).length > 0 || (await foundIn(folder)).length > 0;
}

async function makeCopy(place: CopyPlace, { id }: BankCopy, at: Date): Promise<void> {
  const stamp = at.toISOString().slice(0, 16).replace('T', '-').replace(':', '');
  const file = `zeitbank-${stamp}-${id.slice(0, 4)}.zip`;
  await markBegun(db(), id, file, at);
  try {
    mkdirSync(place.folder, { recursive: true, mode: 0o700 });
    await requireRoom(place.folder);
    const whole = path.join(place.folder, file);
    const { passphrase } = place;
    const manifest = await backUp(place.url, whole, { passphrase });
    await markMade(db(), id, madeOf(whole, manifest));
  } catch (error) {
    await markFailed(db(), id, sentence(error));
  }
}

/** Takes the nights' copies away that nothing keeps any longer; those that somebody asked for stay. */
async function thinOut(folder: string, now: Date): Promise<void> {
  const made = (await listCopies(db(), MOST_COPIES)).flatMap((copy) =>
    copy.askedBy === null && copy.madeAt ? [{ ...copy, madeAt: copy.madeAt }] : [],
  );
  for (const { id, file } of toThin(made, now, await keptCopies(db()))) {
    if (takeAway(path.join(folder, file))) await markRemoved(db(), id, now);
  }
}

async function tryNewest(place: CopyPlace, now: Date): Promise<void> {
  const { lastTriedAt } = await copyFacts(db());
  if (!isTrialDue(lastTriedAt, now)) return;
  const made = (await listCopies(db(), MOST_COPIES)).filter(({ madeAt }) => madeAt !== null);
  const [newest] = made.sort((x, y) => y.madeAt!.getTime() - x.madeAt!.getTime());
  if (!newest) return;
  const failed = await tryOut(place, path.join(place.folder, newest.file)).catch(sentence);
  await markTried(db(), newest.id, failed, now);
}

/**
 * Brings a copy back into a server of its own, and holds what came back against what the copy says: every table's
 * rows, and every sound against its SHA-256.
 * @returns why it did not come back; null where all did
 */
async function tryOut(
  { folder, root, passphrase }: CopyPlace,
  file: string,
): Promise<string | null> {
  if (!existsSync(file)) return `${file} is not there.`;
  const own = trialFolder(folder);
  await requireRoom(os.tmpdir());
  try {
    mkdirSync(own, { recursive: true });
    chmodSync(own, 0o755);
    trial = await startCluster(own, false);
    if (trial.folder !== own)
      return `the server’s user may not enter ${own}, so nothing was tried.`;
    await restore(trial.url, file, root, { passphrase });
    return await unlikeSound(trial.url);
  } finally {
    await endTrial(own);
  }
}

/** The first sound whose bytes are not those it was sealed as; read piece by piece. */
async function unlikeSound(url: string): Promise<string | null> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    const own = dbOf(client);
    const sounds = await own.rows<{ id: number; sha256: string; chunks: number }>(
      `SELECT audio.id, sha256, count(seq)::int AS chunks FROM audio
       LEFT JOIN audio_chunk ON audio_id = audio.id WHERE sha256 IS NOT NULL GROUP BY audio.id`,
    );
    for (const { id, sha256, chunks } of sounds) {
      const hash = createHash('sha256');
      for (let seq = 0; seq < chunks; seq++) {
        const { data } = await one(
          own.rows<{ data: Buffer }>(
            'SELECT data FROM audio_chunk WHERE audio_id = $1 AND seq = $2',
            [id, seq],
          ),
        );
        hash.update(data);
      }
      if (hash.digest('hex') !== sha256) return `sound ${sha256.slice(0, 12)} came back otherwise.`;
    }
    return null;
  } finally {
    await client.end().catch(() => undefined);
  }
}

async function endTrial(own: string): Promise<void> {
  const server = trial;
  trial = null;
  await server?.stop();
  rmSync(own, { recursive: true, force: true });
}

/** A trial that was cut off may have left its server running. */
async function endLeftTrial(folder: string): Promise<void> {
  const own = trialFolder(folder);
  if (trial !== null || !existsSync(own)) return;
  try {
    trial = await startCluster(own, false);
  } finally {
    await endTrial(own);
  }
}

/** For when this process ends: no server stays behind. */
export async function endTrialNow(): Promise<void> {
  await trial?.stop();
}
