import { type ChainsFile, parseChainsFile } from '@/core/statistics/chains-file';
import { ResultsFileError } from '@/core/statistics/csv-table';
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
