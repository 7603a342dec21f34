import { TASKS } from '@/core/tasks';
import type { OpenedAnswer, TaskId } from '@/core/tasks/task';
import { analyzeAttributes, type WordCounts } from './attributes';
import { analyzeAudibility, type Audibility } from './audibility';
import { controlFindings } from './controls';
import { clopperPearson, exactUpperTail } from './distributions';
import { analyzePairs, type PairAnalysis } from './pair/analyze';
import type { ForcedTask } from './psychometric';
import { type RatingSummary, summarizeRatings } from './rating-summary';
import type { Warning } from './results-file';

export interface FromMemory {
  n: number;
  correct: number;
  proportion: number;
  pOneSided: number;
  ci95: [number, number];
}

/** What one part says; the section of its task is filled, the others are empty. */
export interface PartAnalysis {
  task: TaskId;
  answers: number;
  pair: PairAnalysis | null;
  ratings: RatingSummary | null;
  audibility: Audibility[];
  memory: FromMemory | null;
  words: WordCounts[];
  /** What the controls show, in sentences. */
  controls: string[];
  warnings: Warning[];
}

/** Reads the answers of one part by the analysis that was sealed with it. */
export function analyzePart(
  task: TaskId,
  answers: readonly OpenedAnswer[],
  seed: number,
): PartAnalysis {
  const rows = answers.flatMap((one) =>
    TASKS[task].rows(one.answer, one).map((row) => ({ ...row, listener: one.listener })),
  );
  const judgements = rows.flatMap((row) =>
    row.task === 'pair'
      ? [{ ...row, first: row.first, response: row.response as 'a' | 'b' | 'tie' }]
      : [],
  );
  const pairs = judgements.length > 0 ? analyzePairs(judgements, seed) : null;
  const ratings = rows.filter((row) => row.task === 'rating');
  const forced = rows.flatMap((row) =>
    row.task === 'duo-trio' || row.task === 'triangle' || row.task === 'two-interval'
      ? [{ ...row, task: row.task satisfies ForcedTask, correct: row.correct === '1' }]
      : [],
  );
  const remembered = rows.filter((row) => row.task === 'memory');
  const right = remembered.filter(({ correct }) => correct === '1').length;
  return {
    task,
    answers: answers.filter(({ kind }) => kind !== 'learning').length,
    pair: pairs?.analysis ?? null,
    ratings:
      ratings.length > 0
        ? summarizeRatings(ratings.map((row) => ({ ...row, value: Number(row.response) })))
        : null,
    audibility: analyzeAudibility(forced),
    memory:
      remembered.length > 0
        ? {
            n: remembered.length,
            correct: right,
            proportion: right / remembered.length,
            pOneSided: exactUpperTail(right, remembered.length, 0.5),
            ci95: clopperPearson(right, remembered.length),
          }
        : null,
    words: analyzeAttributes(rows.filter((row) => row.task === 'attribute')),
    controls: controlFindings(task, answers),
    warnings: pairs?.warnings ?? [],
  };
}
