import { randomUUID } from 'node:crypto';
import { closeSync, openSync, writeSync } from 'node:fs';
import { access, mkdir, rename, rm, rmdir } from 'node:fs/promises';
import path from 'node:path';
import { MatchError } from '@/core/matching/align';
import { matchClips, type MatchedClip } from '@/core/matching/match';
import type { MatchMethod } from '@/core/matching/methods';
import { heardFormat, roundSound } from '@/core/matching/rounded';
import { resampled } from '@/core/signal/resample';
import type { WritableSound } from '@/core/signal/sound';
import { FloatClip } from '@/core/wav/float-clip';
import { plainHead } from '@/core/wav/write';
import { FileClip } from '@/platform/sound-file';
import { InputError } from './errors';
import { type OpenTake, withTakes } from './files';
import { signed, table } from './table';

export interface MatchOptions {
  out?: string;
  method: MatchMethod;
  targetLufs?: number;
  reference?: string;
  force: boolean;
  json: boolean;
}

const FADE_S = 0.01;

function outputsOf(files: readonly string[], folder: string): string[] {
  const outputs = files.map((file) =>
    path.join(folder, `${path.basename(file, path.extname(file))}.wav`),
  );
  outputs.forEach((output, i) => {
    const twin = outputs.indexOf(output);
    if (twin !== i) {
      throw new InputError(`${files[twin]} and ${files[i]} would both be written to ${output}`);
    }
    const source = files.find((file) => path.resolve(file) === path.resolve(output));
    if (source) throw new InputError(`${source}: the clip would be written over the take`);
  });
  return outputs;
}

async function refuseThose(outputs: readonly string[]): Promise<void> {
  for (const output of outputs) {
    const there = await access(output).then(
      () => true,
      () => false,
    );
    if (there) throw new InputError(`${output}: is there already; --force overwrites`);
  }
}

/** Clips of more bytes than this in all lie in files while they are worked on. */
const MOST_BYTES_IN_MEMORY = 256 << 20;

/** Room for the clips of a set: in memory, or beside where they are written to. */
class Rooms {
  private readonly files: FileClip[] = [];
  private readonly inFiles: boolean;

  constructor(
    private readonly folder: string,
    private readonly sampleRateHz: number,
    takes: readonly OpenTake[],
  ) {
    const bytes = takes.reduce((sum, { sound }) => sum + 4 * sound.frames * sound.channels, 0);
    this.inFiles = bytes > MOST_BYTES_IN_MEMORY;
  }

  give(channels: number, frames: number): WritableSound {
    if (!this.inFiles) return FloatClip.empty(channels, frames, this.sampleRateHz);
    const file = new FileClip(this.folder, channels, frames);
    this.files.push(file);
    return file;
  }

  close(): void {
    for (const file of this.files) file.close();
  }
}

/** Writes the very bytes that were measured. */
function writeClip(out: string, { sound, ditherSeed }: MatchedClip, sampleRateHz: number): void {
  const fd = openSync(out, 'w');
  const write = (bytes: Uint8Array) => {
    for (let done = 0; done < bytes.length;) done += writeSync(fd, bytes, done);
  };
  try {
    const { channels, frames } = sound;
    write(plainHead(channels, frames, sampleRateHz, 24));
    const format = heardFormat(channels, sampleRateHz);
    roundSound(sound, format, 1, ditherSeed, { onBytes: write });
    if ((frames * channels) % 2 === 1) write(new Uint8Array(1));
  } finally {
    closeSync(fd);
  }
}

/** What a set cannot be made for, as the one who gave the command reads it. */
function told(error: unknown, folder: string): unknown {
  if (error instanceof MatchError || error instanceof RangeError)
    return new InputError(error.message);
  if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') return error;
  return new InputError(
    `${folder}: the disk is full; no clip was written, make room and match again`,
  );
}

/** Writes aligned, level-matched clips; nothing is written unless the whole set can be. */
export async function matchCommand(files: readonly string[], options: MatchOptions): Promise<void> {
  if (!options.out) throw new InputError('match: say where to with --out DIR');
  if (files.length === 0) throw new InputError('match: name at least one WAV file');
  const reference = options.reference ?? files[0]!;
  const all = files.includes(reference) ? [...files] : [reference, ...files];
  const folder = options.out;
  const outputs = outputsOf(files, folder);
  const names = outputs.map((out, i) => ({ file: files[i]!, out }));
  const { clips, targetLufs, worstResidualLu } = await withTakes(all, async (takes) => {
    const { sampleRateHz } = takes[all.indexOf(reference)]!;
    if (!options.force) await refuseThose(outputs);
    const made = await mkdir(folder, { recursive: true });
    // Under other names until all are there, so that what is overwritten is whole until then.
    const unfinished = outputs.map(() => path.join(folder, `.${randomUUID()}`));
    const rooms = new Rooms(folder, sampleRateHz, takes);
    try {
      const result = await matchClips(
        {
          sampleRateHz,
          takes: takes.map((take, i) => ({
            name: all[i]!,
            sound: resampled(take.sound, take.sampleRateHz, sampleRateHz),
            alignment: { by: 'performance' },
          })),
          reference: all.indexOf(reference),
          method: options.method,
          targetLufs: options.targetLufs,
          fadeS: FADE_S,
          seed: 1,
        },
        (channels, frames) => rooms.give(channels, frames),
      );
      const written = names.map(({ file, out }, i) => {
        const index = all.indexOf(file);
        const clip = result.clips[index]!;
        writeClip(unfinished[i]!, clip, sampleRateHz);
        const ownHz = takes[index]!.sampleRateHz;
        const { delaySamples, polarityInverted, gainDb, beforeLufs, afterLufs, truePeakDbtp } =
          clip;
        return {
          file,
          out,
          delaySamples,
          polarityInverted,
          gainDb,
          beforeLufs,
          afterLufs,
          truePeakDbtp,
          ...(ownHz === sampleRateHz ? {} : { resampledFromHz: ownHz }),
        };
      });
      for (const [i, out] of outputs.entries()) await rename(unfinished[i]!, out);
      return { ...result, clips: written };
    } catch (error) {
      await Promise.all(unfinished.map((file) => rm(file, { force: true })));
      // A folder that was made for nothing goes again; one with anything in it stays.
      if (made) await rmdir(folder).catch(() => undefined);
      throw told(error, folder);
    } finally {
      rooms.close();
    }
  });
  if (options.json) {
    const document = { method: options.method, targetLufs, clips, worstResidualLu };
    process.stdout.write(`${JSON.stringify(document, null, 1)}\n`);
    return;
  }
  process.stdout.write(
    table(
      clips.map((clip) => [
        clip.out,
        signed(clip.delaySamples, 'samples'),
        clip.polarityInverted ? 'inverted, corrected' : 'same polarity',
        signed(clip.gainDb, 'dB'),
        signed(clip.afterLufs, 'LUFS'),
        signed(clip.truePeakDbtp, 'dBTP'),
        clip.resampledFromHz ? `from ${clip.resampledFromHz} Hz` : '',
      ]),
    ),
  );
  process.stdout.write(`worst residual ${worstResidualLu.toFixed(3)} LU\n`);
}
