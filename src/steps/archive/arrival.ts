import { createHash } from 'node:crypto';
import { type FileEntry, ZipReader } from '@zip.js/zip.js';
import type { ByteSource } from '@/core/wav/format';
import { dropUnfinishedAudio, sealAudio, writeAudio } from '@/platform/audio-store';
import {
  arrived,
  type Arriving,
  CarriedError,
  type CarriedRow,
  type CarriedTable,
  countCarried,
  leaningElsewhere,
  putRows,
} from '@/platform/carried';
import { db, transaction, type Tx } from '@/platform/database';
import { isStoreFull } from '@/platform/errors';
import { announce } from '@/platform/live';
import { unpacksToAbsurdly } from '@/platform/packed';
import { keepElsewhere } from '@/platform/sign-in/elsewhere';
import { CAREFULLY, contentOf, StoredZip } from '@/platform/stored-zip';
import {
  awaitsArrival,
  becomeArrived,
  CARRIED_COMPARISON,
  clearForArrival,
  titleOfSources,
} from '@/steps/comparisons/carried';
import { HELD } from '@/steps/chains/carried';
import { freeGearNames, gearThere, isGearOf } from '@/steps/gear/carried';
import { orderAnalysis } from '@/steps/sitting/service';
import { type ArchiveSource, deleteArchive } from '@/steps/takes/store';
import { MANIFEST, type Manifest, manifestShape, rowsFile, SUMS } from './bank-part';
import { sittingsToRead, studioOf, untouched } from './store';
import { CARRIED } from './tables';

const MOST_FILES = 40_000;
const MOST_TEXT = 1 << 24;
const ROWS_AT_ONCE = 500;

/** An archive as far as it was looked into. */
interface Looked {
  files: ReadonlyMap<string, FileEntry>;
  sums: ReadonlyMap<string, string>;
  packed: number;
  /** What came out of it so far. */
  unpacked: { bytes: number };
}

/** What comes out of a file of the archive, checked against its number when it has come to the end. */
async function* bytesOf({ files, sums, packed, unpacked }: Looked, name: string) {
  const entry = files.get(name);
  if (!entry) throw new CarriedError(`${name} is not in it`);
  if (entry.encrypted) throw new CarriedError('it is locked with a password');
  const hash = createHash('sha256');
  for await (const part of contentOf(entry)) {
    unpacked.bytes += part.length;
    if (unpacksToAbsurdly(unpacked.bytes, packed)) {
      throw new CarriedError('it would unpack to far more than such an archive can hold');
    }
    hash.update(part);
    yield part;
  }
  if (name !== SUMS && sums.get(name) !== hash.digest('hex')) {
    throw new CarriedError(`${name} is not as it was written`);
  }
}

async function* linesOf(looked: Looked, name: string): AsyncGenerator<string> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let held = '';
  for await (const part of bytesOf(looked, name)) {
    const lines = (held + decoder.decode(part, { stream: true })).split('\n');
    held = lines.pop() ?? '';
    if (held.length > MOST_TEXT) throw new CarriedError(`a line of ${name} is too long`);
    yield* lines;
  }
  if (held !== '') yield held;
}

async function textOf(looked: Looked, name: string): Promise<string> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const part of bytesOf(looked, name)) {
    bytes += part.length;
    if (bytes > MOST_TEXT) throw new CarriedError(`${name} is too long`);
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

async function* rowsOf(looked: Looked, table: string): AsyncGenerator<CarriedRow> {
  for await (const line of linesOf(looked, rowsFile(table))) {
    if (line === '') continue;
    let row: unknown;
    try {
      row = JSON.parse(line);
    } catch {
      row = null;
    }
    if (typeof row !== 'object' || row === null || Array.isArray(row)) {
      throw new CarriedError(`a line of ${rowsFile(table)} is no row`);
    }
    yield row as CarriedRow;
  }
}

async function allRows(looked: Looked, table: string): Promise<CarriedRow[]> {
  const rows: CarriedRow[] = [];
  for await (const row of rowsOf(looked, table)) rows.push(row);
  return rows;
}

async function look(source: ByteSource): Promise<Looked> {
  const zip = new ZipReader(new StoredZip(source), CAREFULLY);
  const files = new Map<string, FileEntry>();
  for await (const entry of zip.getEntriesGenerator()) {
    if (files.size > MOST_FILES) throw new CarriedError('it holds too many files');
    if (!entry.directory) files.set(entry.filename, entry);
  }
  const looked = {
    files,
    sums: new Map<string, string>(),
    packed: source.byteLength,
    unpacked: { bytes: 0 },
  };
  for await (const line of linesOf(looked, SUMS)) {
    const [, sha256, name] = /^([0-9a-f]{64}) {2}(.+)$/.exec(line) ?? [];
    if (sha256 && name) looked.sums.set(name, sha256);
  }
  return looked;
}

/** Whether a zip is a whole comparison of a bank. */
export async function isWholeComparison(source: ByteSource): Promise<boolean> {
  const zip = new ZipReader(new StoredZip(source), CAREFULLY);
  for await (const { filename } of zip.getEntriesGenerator())
    if (filename === MANIFEST) return true;
  return false;
}

function manifestIn(text: string): Manifest {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    value = null;
  }
  const read = manifestShape.safeParse(value);
  if (!read.success) throw new CarriedError(`${MANIFEST} is not what this version reads`);
  return read.data;
}

/** Reads what only people read, as well: who was sent half of it should know. */
async function checkRest(looked: Looked, { sounds }: Manifest): Promise<void> {
  const read = new Set([
    ...sounds.map(({ file }) => file),
    ...[CARRIED_COMPARISON, ...CARRIED].map(({ table }) => rowsFile(table)),
  ]);
  for (const name of looked.sums.keys()) {
    if (read.has(name)) continue;
    for await (const part of bytesOf(looked, name)) void part;
  }
}

/** Puts all rows in, and makes sure that they are of this comparison and lean on nothing of others. */
async function putAll(tx: Tx, looked: Looked, to: Arriving): Promise<void> {
  const free = await freeGearNames(tx, to.ownerId);
  const put = new Map<CarriedTable, number>();
  for (const table of CARRIED) {
    let rows: CarriedRow[] = [];
    let count = 0;
    const flush = async () => {
      await putRows(tx, table, rows);
      rows = [];
    };
    for await (const row of rowsOf(looked, table.table)) {
      const made = arrived(table, row, to);
      if (!made) continue;
      if (table.named) made[table.named] = free(String(made[table.named]));
      rows.push(made);
      count++;
      if (rows.length >= ROWS_AT_ONCE) await flush();
    }
    await flush();
    put.set(table, count);
  }
  for (const [table, count] of put) {
    if (table.shared) continue;
    if ((await countCarried(tx, table, to.comparisonId, to.knownGear)) !== count) {
      throw new CarriedError(`rows of ${table.table} belong to something else`);
    }
  }
  const stray = await leaningElsewhere(tx, CARRIED, to.comparisonId);
  if (stray !== null) throw new CarriedError(`rows of ${stray} belong to something else`);
  if (!(await isGearOf(tx, to.comparisonId, HELD, to.ownerId))) {
    throw new CarriedError('it names gear that is somebody else’s');
  }
}

/** Makes an untouched comparison what the archive holds, in one transaction. @throws CarriedError */
async function keep(
  looked: Looked,
  { id: archiveId, comparisonId, audioId }: ArchiveSource,
  manifest: Manifest,
  stored: ReadonlyMap<string, number>,
  at: Date,
): Promise<void> {
  const [itself] = await allRows(looked, CARRIED_COMPARISON.table);
  const gearIds = (await allRows(looked, 'gear')).map(({ id }) => String(id));
  const sourceIds = (await allRows(looked, 'source')).map(({ id }) => String(id));
  if (!itself || sourceIds.length === 0) throw new CarriedError('it holds no comparison');
  await transaction(async (tx) => {
    const known = await tx.rows('SELECT 1 FROM migration WHERE name = $1', [manifest.schema]);
    if (known.length === 0) {
      throw new CarriedError(
        `it was written by a newer version (${manifest.program}); update this one`,
      );
    }
    const there = await titleOfSources(tx, sourceIds);
    if (there !== null) throw new CarriedError(`it is in this bank already, as “${there}”`);
    if (!(await awaitsArrival(tx, comparisonId)) || !(await untouched(tx, comparisonId))) {
      throw new CarriedError(
        'it is a whole comparison, and comes into no other; use Import in the list of comparisons',
      );
    }
    await clearForArrival(tx, comparisonId);
    const ownerId = await studioOf(tx, comparisonId);
    const sounds = new Map<number, number>();
    for (const { id, sha256 } of manifest.sounds) {
      sounds.set(id, await sealAudio(tx, stored.get(sha256)!, sha256));
    }
    const to: Arriving = {
      comparisonId,
      ownerId,
      sounds,
      accounts: await keepElsewhere(tx, ownerId, manifest.accounts, at),
      knownGear: await gearThere(tx, ownerId, gearIds),
    };
    await putAll(tx, looked, to);
    await becomeArrived(tx, comparisonId, arrived(CARRIED_COMPARISON, itself, to)!);
    for (const sittingId of await sittingsToRead(tx, comparisonId)) {
      await orderAnalysis(tx, comparisonId, sittingId, at);
    }
    await deleteArchive(tx, archiveId, audioId);
    await announce(tx, comparisonId);
  });
}

/** What is wrong with the archive; null where something else went wrong, which another try may mend. */
function saidOf(error: unknown): string | null {
  const code = typeof error === 'object' && error !== null && 'code' in error ? error.code : null;
  // Whatever reads zips and texts has no codes of its own, or those of Node and of zlib.
  if (typeof code !== 'string' || /^(ERR|Z)_/.test(code)) return 'it is damaged or cut short';
  // The database's classes of wrong values and broken constraints.
  return /^(22|23)/.test(code)
    ? 'its rows do not fit one another, or are in this bank already'
    : null;
}

/**
 * Brings a whole comparison in: ids, seals and answers stay as they are, sound that is here already is not stored
 * twice, and what answers say is worked out anew.
 * @returns why it was not possible; null where it was
 */
export async function bringIn(
  source: ByteSource,
  archive: ArchiveSource,
  at: Date,
  told: (share: number) => void,
): Promise<string | null> {
  const stored = new Map<string, number>();
  try {
    const looked = await look(source);
    const manifest = manifestIn(await textOf(looked, MANIFEST));
    await checkRest(looked, manifest);
    for (const [i, { sha256, file }] of manifest.sounds.entries()) {
      told((0.9 * i) / manifest.sounds.length);
      if (stored.has(sha256)) continue;
      if (looked.sums.get(file) !== sha256)
        throw new CarriedError(`${file} is not as it was written`);
      stored.set(sha256, await writeAudio(db(), bytesOf(looked, file), at));
    }
    await keep(looked, archive, manifest, stored, at);
    return null;
  } catch (error) {
    await dropUnfinishedAudio(db(), [...stored.values()]);
    if (isStoreFull(error)) throw error;
    const said = error instanceof CarriedError ? error.message : saidOf(error);
    if (said === null) throw error;
    return `This archive cannot be imported: ${said}. Nothing of it was kept.`;
  }
}
