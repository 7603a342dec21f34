import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { Decrypter, Encrypter } from 'age-encryption';
import { type Entry, TextReader, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { z } from 'zod';
import type { ByteSource } from '@/core/wav/format';
import { withFileSource } from '@/platform/file-source';
import { StoredZip } from '@/platform/stored-zip';
import { into } from '@/platform/stream-into';

/** What is told to whoever asked: which file, what is wrong with it, what was kept. */
export class BackupError extends Error {
  override name = 'BackupError';
}

const FORMAT = 'zeitbank backup 1';
const DUMP = 'bank.dump';
const MANIFEST = 'manifest.json';
const CHECKS = 'checks.json';
/** What is damaged is told to within so many bytes. */
const BLOCK_BYTES = 1 << 24;

/** What a backup says of itself before its content. */
const manifestShape = z.object({
  format: z.literal(FORMAT),
  madeAt: z.string(),
  /** Of the server that it came from. */
  postgres: z.string(),
  /** Steps of the schema, oldest first: a program that does not know one cannot bring it back. */
  migrations: z.array(z.string()),
  /** How the content is locked: by age (age-encryption.org/v1) under a passphrase; null where it lies open. */
  locked: z.literal('age').nullable(),
  /** Rows of each table, schema and name, in the one moment that is kept. */
  rows: z.record(z.string(), z.int()),
});
export type Manifest = z.infer<typeof manifestShape>;

/** Rows of all tables. */
export const rowsIn = ({ rows }: Manifest) =>
  Object.values(rows).reduce((sum, count) => sum + count, 0);

/** SHA-256 of the content, whole and block by block. */
const checksShape = z.object({
  bytes: z.int(),
  sha256: z.string(),
  blockBytes: z.int().positive(),
  blocks: z.array(z.string()),
});
type Checks = z.infer<typeof checksShape>;

/** Hashes what goes through. */
function hashing(blockBytes: number) {
  const whole = createHash('sha256');
  let block = createHash('sha256');
  let [inBlock, bytes] = [0, 0];
  const blocks: string[] = [];
  const close = () => {
    blocks.push(block.digest('hex'));
    block = createHash('sha256');
    inBlock = 0;
  };
  return {
    take(part: Uint8Array): void {
      whole.update(part);
      bytes += part.length;
      for (let at = 0; at < part.length;) {
        const now = part.subarray(at, at + blockBytes - inBlock);
        block.update(now);
        inBlock += now.length;
        at += now.length;
        if (inBlock === blockBytes) close();
      }
    },
    done(): Checks {
      if (inBlock > 0) close();
      return { bytes, sha256: whole.digest('hex'), blockBytes, blocks };
    },
    blocks,
  };
}

export const manifestOf = (
  manifest: Omit<Manifest, 'format' | 'locked'>,
  passphrase: string | null = null,
): Manifest => ({ format: FORMAT, ...manifest, locked: passphrase === null ? null : 'age' });

async function locked(
  dump: ReadableStream<Uint8Array>,
  passphrase: string,
): Promise<ReadableStream<Uint8Array>> {
  const lock = new Encrypter();
  lock.setPassphrase(passphrase);
  return lock.encrypt(dump);
}

/**
 * Writes a backup as a zip (stored, 64 bits) that is never held in memory.
 * @param passphrase what the content is locked with, where the manifest says that it is
 * @param told bytes of the content so far
 */
export async function writeBackup(
  path: string,
  manifest: Manifest,
  dump: ReadableStream<Uint8Array>,
  {
    passphrase = null,
    told = () => undefined,
  }: { passphrase?: string | null; told?: (bytes: number) => void } = {},
): Promise<Checks> {
  const file = createWriteStream(path, { flags: 'w', mode: 0o600, flush: true });
  const zip = new ZipWriter<unknown>(into(file), {
    level: 0,
    zip64: true,
  });
  await zip.add(MANIFEST, new TextReader(JSON.stringify(manifest, null, 1)));
  const hashed = hashing(BLOCK_BYTES);
  let bytes = 0;
  const through = new TransformStream<Uint8Array, Uint8Array>({
    transform(part, on) {
      hashed.take(part);
      bytes += part.length;
      told(bytes);
      on.enqueue(part);
    },
  });
  const content = passphrase === null ? dump : await locked(dump, passphrase);
  await zip.add(DUMP, content.pipeThrough(through));
  const checks = hashed.done();
  await zip.add(CHECKS, new TextReader(JSON.stringify(checks)));
  await zip.close();
  return checks;
}

/** A backup that is there to be read; nothing of its content was looked at yet. */
export interface Backup {
  manifest: Manifest;
  /** Reads all of it once. @throws BackupError that names the place of what is not as it was written */
  verify(told?: (share: number) => void): Promise<void>;
  /** Tries a passphrase on the first bytes. @throws BackupError where it does not open what is locked */
  unlock(passphrase: string | null): Promise<void>;
  /** The database's own archive, to be read from the beginning; of a locked one with its passphrase. */
  dump(to: WritableStream<Uint8Array>, passphrase: string | null): Promise<void>;
}

type File = Extract<Entry, { directory: false }>;

/**
 * Opens a backup for as long as something is done with it.
 * @throws BackupError where it is none, or was cut off
 */
export async function withBackup<T>(
  path: string,
  work: (backup: Backup) => Promise<T>,
): Promise<T> {
  let opened = false;
  return withFileSource(path, async (source) => {
    opened = true;
    return work(await openBackup(path, source));
  }).catch((error: unknown) => {
    throw opened ? error : new BackupError(`${path} is not there, or cannot be read`);
  });
}

async function openBackup(path: string, source: ByteSource): Promise<Backup> {
  const cutOff = () =>
    new BackupError(
      `${path} is no whole backup: it ends after ${source.byteLength} bytes without its directory, so it was cut off or is something else`,
    );
  const entries = await new ZipReader(new StoredZip(source)).getEntries().catch(() => {
    throw cutOff();
  });
  const entry = (name: string): File => {
    const found = entries.find(({ filename }) => filename === name);
    if (!found || found.directory)
      throw new BackupError(`${path} is no backup of a bank: it holds no ${name}`);
    return found;
  };
  const text = async (name: string) => {
    const parts: Uint8Array[] = [];
    const into = new WritableStream<Uint8Array>({ write: (part) => void parts.push(part) });
    await entry(name).getData(into);
    return Buffer.concat(parts).toString('utf8');
  };
  const read = async <T>(name: string, shape: z.ZodType<T>): Promise<T> => {
    const file = entry(name);
    const whole = await text(name)
      .then((found): unknown => JSON.parse(found))
      .catch(() => null);
    const parsed = shape.safeParse(whole);
    if (parsed.success) return parsed.data;
    throw new BackupError(
      `${path} is damaged or of another kind: ${name} at byte ${file.offset} cannot be read`,
    );
  };
  const manifest = await read(MANIFEST, manifestShape);
  const checks = await read(CHECKS, checksShape);
  const dumped = entry(DUMP);
  /** The content as a passphrase opens it, while it is read. */
  const opened = (passphrase: string) => {
    const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
    const read = dumped.getData(writable);
    read.catch(() => undefined);
    const key = new Decrypter();
    key.addPassphrase(passphrase);
    // What was looked at only at its beginning ends the reading of the rest.
    const stop = () => read.then(() => undefined).catch(() => undefined);
    return { content: key.decrypt(readable), read, stop };
  };
  return {
    manifest,
    async verify(told = () => undefined) {
      const hashed = hashing(checks.blockBytes);
      let bytes = 0;
      const damaged = (at: number) => {
        const from = at * checks.blockBytes;
        const to = Math.min(checks.bytes, from + checks.blockBytes);
        return new BackupError(
          `${path} is damaged between bytes ${from} and ${to} of ${DUMP}; nothing was brought back`,
        );
      };
      let looked = 0;
      const look = () => {
        for (; looked < hashed.blocks.length; looked++) {
          if (hashed.blocks[looked] !== checks.blocks[looked]) throw damaged(looked);
        }
      };
      const into = new WritableStream<Uint8Array>({
        write(part) {
          hashed.take(part);
          bytes += part.length;
          look();
          told(bytes / checks.bytes);
        },
      });
      await dumped.getData(into).catch((error: unknown) => {
        throw error instanceof BackupError ? error : damaged(looked);
      });
      const found = hashed.done();
      look();
      if (found.sha256 !== checks.sha256) throw damaged(Math.max(0, checks.blocks.length - 1));
    },
    async unlock(passphrase) {
      if (manifest.locked === null) return;
      if (passphrase === null) {
        throw new BackupError(
          `${path} is locked; give its passphrase. Nobody can open it without, and nothing was changed`,
        );
      }
      const { content, stop } = opened(passphrase);
      const found = await content.catch(() => {
        throw new BackupError(
          `this is not the passphrase of ${path}; nothing was changed. Nobody can open it without`,
        );
      });
      await found.cancel();
      await stop();
    },
    async dump(to, passphrase) {
      if (manifest.locked === null || passphrase === null) {
        await dumped.getData(to);
        return;
      }
      const { content, read } = opened(passphrase);
      await Promise.all([content.then((open) => open.pipeTo(to)), read]);
    },
  };
}
