import { analyzeAttributes, type WordCounts } from './attributes';
import { analyzeAudibility, type Audibility } from './audibility';
import { analyzePairs, type PairAnalysis } from './pair/analyze';
import { GUESS, type ForcedTask } from './psychometric';
import { parseResultsFile, type Warning } from './results-file';
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
  audibility: Audibility[];
  attributes: WordCounts[];
  warnings: Warning[];
}

/**
 * Analyses a results file. Rows of ratings are checked and counted, and a warning says that their section
 * is not computed.
 * @throws ResultsFileError when the file must not be analysed
 */
export function analyzeResults(bytes: Uint8Array, seed: number): Analysis {
  const { rows, skipped, warnings } = parseResultsFile(bytes);
  const judgements = rows.flatMap((row) =>
    row.task === 'pair' ? [{ ...row, response: row.response as 'a' | 'b' | 'tie' }] : [],
  );
  const pair = judgements.length > 0 ? analyzePairs(judgements, seed) : null;
  if (rows.some(({ task }) => task === 'rating')) {
    warnings.push({
      code: 'section-not-computed',
      section: 'rating',
      message: 'answers of the rating section are counted, but this version does not analyse them',
    });
  }
  const forced = rows.flatMap((row) =>
    row.task in GUESS
      ? [{ ...row, task: row.task as ForcedTask, correct: row.correct === '1' }]
      : [],
  );
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
    audibility: analyzeAudibility(forced),
    attributes: analyzeAttributes(rows.filter(({ task }) => task === 'attribute')),
    warnings: [...warnings, ...(pair?.warnings ?? [])],
  };
}
