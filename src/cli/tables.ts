import { type ChainsFile, parseChainsFile } from '@/core/statistics/chains-file';
import { ResultsFileError } from '@/core/statistics/csv-table';
import { openPackAnswers } from '@/core/statistics/pack-answers';
import { packKeyText } from '@/steps/match/pack-format';
import { InputError } from './errors';
import { readWhole } from './files';

/** What is made of a file's bytes; what must not be analysed is refused with the file's name before it. */
export async function parsed<T>(file: string, of: (bytes: Uint8Array) => T): Promise<T> {
  const bytes = await readWhole(file);
  try {
    return of(bytes);
  } catch (error) {
    if (error instanceof ResultsFileError) throw new InputError(`${file}: ${error.message}`);
    throw error;
  }
}

export async function readChains(
  file: string,
  needed: readonly ('microphone' | 'preamp')[],
): Promise<ChainsFile> {
  return parsed(file, (bytes) => parseChainsFile(bytes, needed));
}

/**
 * How a file of answers is opened: as it is, or by the key of the blind pack that it belongs to.
 * @param key name of the key's file
 */
export async function opening(key: string | undefined): Promise<(bytes: Uint8Array) => Uint8Array> {
  if (key === undefined) return (bytes) => bytes;
  const words = await parsed(key, (bytes) => {
    const read = packKeyText.safeParse(new TextDecoder().decode(bytes));
    if (!read.success) throw new ResultsFileError('this is not the key of a blind pack');
    return new Map(read.data.clips.map(({ word, chain }) => [word, chain]));
  });
  return (bytes) => openPackAnswers(bytes, words);
}
