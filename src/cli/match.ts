import { access, mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { MatchError } from '@/core/matching/align';
import { matchClips, type MatchMethod } from '@/core/matching/match';
import { WavError } from '@/core/wav/format';
import { decodeWav } from '@/core/wav/read';
import { InputError } from './errors';
import { readWhole } from './files';
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

async function readTake(file: string): Promise<{ channels: Float64Array[]; sampleRateHz: number }> {
  try {
    const { header, channels } = await decodeWav(await readWhole(file));
    return { channels, sampleRateHz: header.format.sampleRateHz };
  } catch (error) {
    if (error instanceof WavError) throw new InputError(`${file}: ${error.message}`);
    throw error;
  }
}

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

/** Writes aligned, level-matched clips; nothing is written unless the whole set can be. */
export async function matchCommand(files: readonly string[], options: MatchOptions): Promise<void> {
  if (!options.out) throw new InputError('match: say where to with --out DIR');
  if (files.length === 0) throw new InputError('match: name at least one WAV file');
  const reference = options.reference ?? files[0];
  const all = files.includes(reference) ? [...files] : [reference, ...files];
  const outputs = outputsOf(files, options.out);
  const takes = [];
  for (const file of all) takes.push({ file, ...(await readTake(file)) });
  const { sampleRateHz } = takes[0];
  const other = takes.find((take) => take.sampleRateHz !== sampleRateHz);
  if (other) {
    throw new InputError(
      `${other.file}: has ${other.sampleRateHz} Hz, ${takes[0].file} has ${sampleRateHz} Hz; ` +
        'a set needs one sample rate',
    );
  }
  if (!options.force) {
    for (const output of outputs) {
      const there = await access(output).then(
        () => true,
        () => false,
      );
      if (there) throw new InputError(`${output}: is there already; --force overwrites`);
    }
  }
  const result = await matchClips({
    sampleRateHz,
    takes: takes.map(({ file, channels }) => ({
      name: file,
      channels,
      alignment: { by: 'performance' },
    })),
    reference: all.indexOf(reference),
    method: options.method,
    targetLufs: options.targetLufs,
    fadeS: FADE_S,
    seed: 1,
  }).catch((error: unknown) => {
    throw error instanceof MatchError ? new InputError(error.message) : error;
  });
  await mkdir(options.out, { recursive: true });
  const clips = [];
  for (const [i, file] of files.entries()) {
    const clip = result.clips[all.indexOf(file)];
    await writeFile(outputs[i], clip.encoded());
    const { delaySamples, polarityInverted, gainDb, beforeLufs, afterLufs, truePeakDbtp } = clip;
    clips.push({
      file,
      out: outputs[i],
      delaySamples,
      polarityInverted,
      gainDb,
      beforeLufs,
      afterLufs,
      truePeakDbtp,
    });
  }
  const { targetLufs, worstResidualLu } = result;
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
      ]),
    ),
  );
  process.stdout.write(`worst residual ${worstResidualLu.toFixed(3)} LU\n`);
}
