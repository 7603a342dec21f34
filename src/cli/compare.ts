import { relativeTransfer } from '@/core/spectrum/transfer';
import { WavError } from '@/core/wav/format';
import { decodeWav } from '@/core/wav/read';
import { InputError } from './errors';
import { readWhole } from './files';
import { signed, table } from './table';

async function readTake(file: string): ReturnType<typeof decodeWav> {
  const bytes = await readWhole(file);
  try {
    return await decodeWav(bytes);
  } catch (error) {
    if (error instanceof WavError) throw new InputError(`${file}: ${error.message}`);
    throw error;
  }
}

/** Prints what turns the first file into the second: delay, polarity, level, and thirds of an octave. */
export async function compareCommand(files: readonly string[], json: boolean): Promise<void> {
  if (files.length !== 2) {
    throw new InputError(
      `compare: two WAV files are needed, the reference and the other; ${files.length} given`,
    );
  }
  const [reference, other] = [await readTake(files[0]), await readTake(files[1])];
  const rate = reference.header.format.sampleRateHz;
  if (other.header.format.sampleRateHz !== rate) {
    throw new InputError(
      `${files[1]}: it has ${other.header.format.sampleRateHz} Hz, the reference ${rate} Hz`,
    );
  }
  if (other.channels.length !== reference.channels.length) {
    throw new InputError(
      `${files[1]}: it has ${other.channels.length} channels, the reference ${reference.channels.length}`,
    );
  }
  for (const [i, { channels }] of [reference, other].entries()) {
    if (channels[0].every((x) => x === 0)) throw new InputError(`${files[i]}: it is silent`);
  }
  const found = relativeTransfer(reference.channels, other.channels, rate);
  if (json) {
    process.stdout.write(`${JSON.stringify(found, null, 1)}\n`);
    return;
  }
  const { delaySamples, polarityInverted, broadbandDb, bands } = found;
  process.stdout.write(
    `${files[1]} against ${files[0]}: ${delaySamples.toFixed(2)} samples late, ` +
      `polarity ${polarityInverted ? 'inverted' : 'the same'}, ${signed(broadbandDb, 'dB')}\n`,
  );
  process.stdout.write(
    table(
      bands.map(({ centerHz, differenceDb, coherence }) => [
        `${centerHz} Hz`,
        signed(differenceDb, 'dB'),
        `coherence ${coherence.toFixed(2)}`,
      ]),
    ),
  );
}
