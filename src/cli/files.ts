import { mkdtemp, open, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { resample } from '@/core/signal/resample';
import type { Sound } from '@/core/signal/sound';
import { WavError } from '@/core/wav/format';
import { readFrames, readWavHeader } from '@/core/wav/read';
import { type FileSource, withFileSource } from '@/platform/file-source';
import { isFlac, unpackFlac } from '@/platform/flac';
import { soundInFile } from '@/platform/sound-file';
import { InputError } from './errors';

const REASONS: Record<string, string> = {
  ENOENT: 'there is no such file',
  EACCES: 'it may not be read',
  EISDIR: 'this is a folder, not a file',
};

function readable(path: string, error: unknown): InputError {
  const code = (error as NodeJS.ErrnoException).code ?? '';
  return new InputError(`${path}: ${REASONS[code] ?? `it cannot be read (${code})`}`);
}

/** Opens a file of sound as a byte source for the length of `work`; what is packed is unpacked beside it. */
export async function withSource<T>(
  path: string,
  work: (source: FileSource) => Promise<T>,
): Promise<T> {
  return withFile(path, async (source) => {
    if (!(await isFlac(source))) return work(source);
    const folder = await mkdtemp(join(tmpdir(), 'zeitbank-'));
    try {
      const unpacked = join(folder, 'unpacked.wav');
      const { pieces, header } = await unpackFlac(source);
      await writeFile(unpacked, pieces);
      const file = await open(unpacked, 'r+');
      await file.write(header(), 0, undefined, 0).finally(() => file.close());
      return await withFile(unpacked, work);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
}

async function withFile<T>(path: string, work: (source: FileSource) => Promise<T>): Promise<T> {
  let opened = false;
  return withFileSource(path, (source) => {
    opened = true;
    return work(source);
  }).catch((error: unknown) => {
    throw opened ? error : readable(path, error);
  });
}

export async function readWhole(path: string): Promise<Uint8Array> {
  return readFile(path).catch((error: unknown) => {
    throw readable(path, error);
  });
}

export interface ReadTake {
  sampleRateHz: number;
  channels: Float64Array[];
}

/** All samples of a file of sound, at the rate it has. */
export async function readTake(path: string): Promise<ReadTake> {
  return named(path, () =>
    withSource(path, async (source) => {
      const header = await readWavHeader(source);
      const channels = await readFrames(source, header, 0, header.frames);
      return { sampleRateHz: header.format.sampleRateHz, channels };
    }),
  );
}

/** A take at another rate, as the application does it. */
export function atRate({ sampleRateHz, channels }: ReadTake, rate: number): Float64Array[] {
  return channels.map((samples) => resample(samples, sampleRateHz, rate));
}

/** A take whose file stays open: its sound is read where it is asked for. */
export interface OpenTake {
  sampleRateHz: number;
  sound: Sound;
}

/** Opens files of sound for the length of `work`. */
export async function withTakes<T>(
  paths: readonly string[],
  work: (takes: OpenTake[]) => Promise<T>,
  open: OpenTake[] = [],
): Promise<T> {
  const next = paths[open.length];
  if (next === undefined) return work(open);
  return named(next, () =>
    withSource(next, async (source) => {
      const header = await readWavHeader(source);
      const { sampleRateHz } = header.format;
      const take = { sampleRateHz, sound: soundInFile(source.fd, header) };
      return withTakes(paths, work, [...open, take]);
    }),
  );
}

/** What is wrong with a file is said with its name. */
async function named<T>(path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof WavError) throw new InputError(`${path}: ${error.message}`);
    throw error;
  }
}
