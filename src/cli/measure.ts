import { measureSource } from '@/core/loudness/measure-source';
import type { Measurement } from '@/core/loudness/meter';
import { WavError } from '@/core/wav/format';
import { readWavHeader } from '@/core/wav/read';
import { InputError } from './errors';
import { withSource } from './files';
import { signed, table } from './table';

interface Measured extends Measurement {
  file: string;
  sampleRateHz: number;
  channels: number;
  bitDepth: number;
  durationS: number;
}

interface Refused {
  file: string;
  error: string;
}

async function measureFile(file: string): Promise<Measured | Refused> {
  try {
    return await withSource(file, async (source) => {
      const header = await readWavHeader(source);
      const { sampleRateHz, channels, bitDepth } = header.format;
      const measured = await measureSource(source, header);
      return { file, sampleRateHz, channels, bitDepth, durationS: header.durationS, ...measured };
    });
  } catch (error) {
    if (error instanceof InputError) return { file, error: error.message };
    if (error instanceof WavError || error instanceof RangeError) {
      return { file, error: `${file}: ${error.message}` };
    }
    throw error;
  }
}

/** Prints loudness and level of each file; bad files are named and the good ones reported. */
export async function measureCommand(files: readonly string[], json: boolean): Promise<void> {
  if (files.length === 0) throw new InputError('measure: name at least one WAV file');
  const results: (Measured | Refused)[] = [];
  for (const file of files) results.push(await measureFile(file));
  if (json) {
    process.stdout.write(`${JSON.stringify(results, null, 1)}\n`);
  } else {
    const good = results.filter((result): result is Measured => !('error' in result));
    const rows = good.map((m) => [
      m.file,
      `${m.sampleRateHz} Hz`,
      `${m.channels} ch`,
      `${m.durationS.toFixed(2)} s`,
      signed(m.integratedLufs, 'LUFS'),
      signed(m.truePeakDbtp, 'dBTP'),
      signed(m.rmsDbfs, 'dB RMS'),
      `${m.loudnessRangeLu?.toFixed(1) ?? '–'} LU`,
      m.clippedSamples > 0 ? `${m.clippedSamples} clipped` : '',
    ]);
    process.stdout.write(table(rows));
  }
  const bad = results.filter((result): result is Refused => 'error' in result);
  if (bad.length > 0) throw new InputError(bad.map(({ error }) => error).join('; '));
}
