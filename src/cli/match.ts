import { access, mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { MatchError } from '@/core/matching/align';
import { matchClips, type MatchMethod } from '@/core/matching/match';
import { InputError } from './errors';
import { atRate, readTake } from './files';
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

/** Writes aligned, level-matched clips; nothing is written unless the whole set can be. */
export async function matchCommand(files: readonly string[], options: MatchOptions): Promise<void> {
  if (!options.out) throw new InputError('match: say where to with --out DIR');
  if (files.length === 0) throw new InputError('match: name at least one WAV file');
  const reference = options.reference ?? files[0]!;
  const all = files.includes(reference) ? [...files] : [reference, ...files];
  const outputs = outputsOf(files, options.out);
  const takes = [];
  for (const file of all) takes.push({ file, ...(await readTake(file)) });
  const { sampleRateHz } = takes[all.indexOf(reference)]!;
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
    takes: takes.map((take) => ({
      name: take.file,
      channels: atRate(take, sampleRateHz),
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
    const clip = result.clips[all.indexOf(file)]!;
    await writeFile(outputs[i]!, clip.encoded());
    const ownHz = takes[all.indexOf(file)]!.sampleRateHz;
    const { delaySamples, polarityInverted, gainDb, beforeLufs, afterLufs, truePeakDbtp } = clip;
    clips.push({
      file,
      out: outputs[i]!,
      delaySamples,
      polarityInverted,
      gainDb,
      beforeLufs,
      afterLufs,
      truePeakDbtp,
      ...(ownHz === sampleRateHz ? {} : { resampledFromHz: ownHz }),
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
        clip.resampledFromHz ? `from ${clip.resampledFromHz} Hz` : '',
      ]),
    ),
  );
  process.stdout.write(`worst residual ${worstResidualLu.toFixed(3)} LU\n`);
}
