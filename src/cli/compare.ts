import { SAME_PERFORMANCE_COHERENCE } from '@/core/alignment/delay';
import { relativeTransfer } from '@/core/spectrum/transfer';
import { InputError } from './errors';
import { atRate, readTake } from './files';
import { signed, table } from './table';

/** Prints what turns the first file into the second: delay, polarity, level, and thirds of an octave. */
export async function compareCommand(files: readonly string[], json: boolean): Promise<void> {
  if (files.length !== 2) {
    throw new InputError(
      `compare: two WAV files are needed, the reference and the other; ${files.length} given`,
    );
  }
  const [reference, other] = [await readTake(files[0]!), await readTake(files[1]!)];
  const rate = reference.sampleRateHz;
  if (other.channels.length !== reference.channels.length) {
    throw new InputError(
      `${files[1]}: it has ${other.channels.length} channels, the reference ${reference.channels.length}`,
    );
  }
  for (const [i, { channels }] of [reference, other].entries()) {
    if (channels[0]!.every((x) => x === 0)) throw new InputError(`${files[i]}: it is silent`);
  }
  const { coherence, ...found } = relativeTransfer(reference.channels, atRate(other, rate), rate);
  // Standard output holds the result alone.
  if (other.sampleRateHz !== rate) {
    process.stderr.write(
      `${files[1]}: brought from ${other.sampleRateHz} Hz to the ${rate} Hz of ${files[0]}\n`,
    );
  }
  if (coherence < SAME_PERFORMANCE_COHERENCE) {
    process.stderr.write(
      `${files[1]} and ${files[0]} do not look like the same performance; ` +
        'then differences of players and places are in these numbers, too\n',
    );
  }
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
