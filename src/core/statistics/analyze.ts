import { analyzePairs, type PairAnalysis } from './pair/analyze';
import { parseResultsFile, type ResultTask, type Warning } from './results-file';
import { sortedNames } from './pair/judgements';

/** The whole analysis of one results file. */
export interface Analysis {
  input: {
    rowsUsed: number;
    rowsSkipped: { blank: number; missing: number; duplicate: number };
    listeners: number;
    chains: number;
  };
  pair: PairAnalysis | null;
  rating: null;
  audibility: never[];
  attributes: never[];
  warnings: Warning[];
}

const NOT_YET: Partial<Record<ResultTask, Warning['section']>> = {
  rating: 'rating',
  'duo-trio': 'audibility',
  triangle: 'audibility',
  'two-interval': 'audibility',
  attribute: 'attributes',
};

/**
 * Analyses a results file. Pair judgements are computed; rows of other tasks are checked and counted,
 * and a warning says that their section is not computed.
 * @throws ResultsFileError when the file must not be analysed
 */
export function analyzeResults(bytes: Uint8Array, seed: number): Analysis {
  const { rows, skipped, warnings } = parseResultsFile(bytes);
  const judgements = rows.flatMap((row) =>
    row.task === 'pair' ? [{ ...row, response: row.response as 'a' | 'b' | 'tie' }] : [],
  );
  const pair = judgements.length > 0 ? analyzePairs(judgements, seed) : null;
  for (const section of new Set(rows.flatMap((row) => NOT_YET[row.task] ?? []))) {
    warnings.push({
      code: 'section-not-computed',
      section,
      message: `answers of the ${section} section are counted, but this version does not analyse them`,
    });
  }
  return {
    input: {
      rowsUsed: rows.length,
      rowsSkipped: skipped,
      listeners: sortedNames(rows.map((row) => row.listener)).length,
      chains: sortedNames(
        rows.flatMap((row) => (row.chainB ? [row.chain, row.chainB] : [row.chain])),
      ).length,
    },
    pair: pair?.analysis ?? null,
    rating: null,
    audibility: [],
    attributes: [],
    warnings: [...warnings, ...(pair?.warnings ?? [])],
  };
}
