import { sortedNames } from '@/core/text/order';
import type { ChainMakes } from './chains-file';
import { parseResultsFile } from './results-file';
import type { Results } from './results';
import { readAll } from './sections';
import type { Warning } from './findings';

/** The whole analysis of one results file. */
export interface Analysis extends Results {
  input: {
    rowsUsed: number;
    rowsSkipped: { blank: number; missing: number; duplicate: number };
    listeners: number;
    chains: number;
  };
  warnings: Warning[];
}

/**
 * Analyses a results file by every section.
 * @param seed of the bootstrap
 * @param made microphone and preamp of each chain, for the test of parts
 * @throws ResultsFileError when the file must not be analysed
 */
export function analyzeResults(
  bytes: Uint8Array,
  seed: number,
  made: ChainMakes | null = null,
): Analysis {
  const { observations, skipped, warnings } = parseResultsFile(bytes);
  const read = readAll(observations, { seed, made });
  return {
    input: {
      rowsUsed: observations.length,
      rowsSkipped: skipped,
      listeners: sortedNames(observations.map(({ listener }) => listener)).length,
      chains: sortedNames(
        observations.flatMap((one) => ('chainB' in one ? [one.chain, one.chainB] : [one.chain])),
      ).length,
    },
    ...read.results,
    warnings: [...warnings, ...read.warnings],
  };
}
