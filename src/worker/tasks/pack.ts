import { createHash } from 'node:crypto';
import { strToU8, type Zippable, zipSync } from 'fflate';
import { servedCopy } from '@/core/matching/copy';
import { ANSWERS_CSV, manifestOf, manifestSchema, readMe } from '@/steps/match/pack-format';
import { bytesSource } from '@/core/wav/format';
import { readWavHeader } from '@/core/wav/read';
import type { PackJob } from '@/steps/match/pack';
import { readMaster } from './master';

/** All entries alike, so that neither order nor time of a file tells anything. */
const AT = new Date(2020, 0, 1);

type Packed = Pick<PackJob, 'clips'>;

/** The files of a pack, by code word; the same seeds give the same bytes again. */
async function packedFiles({ clips }: Packed): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for (const { word, audioId, seeds, levelLufs } of clips) {
    const master = await readMaster(audioId);
    files.set(word, servedCopy(master, { seeds, levelLufs, gainDb: 0 }));
  }
  return files;
}

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** SHA-256 of each file of a pack that is being sealed. */
export async function hashPackClips(packed: Packed): Promise<Record<string, string>> {
  const files = await packedFiles(packed);
  return Object.fromEntries([...files].map(([word, bytes]) => [word, sha256(bytes)]));
}

/** The zip of a blind pack: coded copies with dither of their own, manifest, schema, words to read. */
export async function packClips(job: PackJob): Promise<Uint8Array> {
  const files = await packedFiles(job);
  const [first] = files.values();
  if (!first) throw new Error('a pack holds at least one clip');
  const { format, durationS } = await readWavHeader(bytesSource(first));
  const manifest = manifestOf({
    title: job.title,
    question: job.question,
    sampleRateHz: format.sampleRateHz,
    channels: format.channels,
    seconds: durationS,
    level: job.level,
    clips: [...files].map(([word, bytes]) => ({
      word,
      file: `${word}.wav`,
      sha256: sha256(bytes),
    })),
    seal: job.seal,
  });
  const stored = { level: 0, mtime: AT } as const;
  const entries: Zippable = {
    'README.txt': [strToU8(readMe(manifest)), { mtime: AT }],
    'manifest.json': [strToU8(`${JSON.stringify(manifest, null, 2)}\n`), { mtime: AT }],
    'manifest.schema.json': [strToU8(manifestSchema()), { mtime: AT }],
    'answers.csv': [strToU8(ANSWERS_CSV), { mtime: AT }],
  };
  for (const { word, file } of manifest.clips) {
    entries[file] = [files.get(word) ?? new Uint8Array(0), stored];
  }
  return zipSync(entries);
}
