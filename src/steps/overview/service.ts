import { db } from '@/platform/database';
import { openJobs } from '@/platform/jobs';
import { pageWithin } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { chainsStep } from '@/steps/chains/step';
import type { ComparisonQuery, ListedComparison } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { countComparisons, listComparisons } from '@/steps/comparisons/store';
import { sittingStep } from '@/steps/sitting/step';
import type { Step } from '@/steps/step';
import { takesStep } from '@/steps/takes/step';
import { nextStep, type Overview, standingsOf, STEPS } from './steps';

export async function overviewOf(engineer: SignedIn, comparisonId: string): Promise<Overview> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const known = (await standingsOf(db(), [comparisonId]))(comparisonId);
  const steps = await Promise.all(
    STEPS.map(async (step) => {
      const { word, locked, settled } = step.look(known);
      const whole: Step<string, unknown> = step;
      const more = (await whole.closely?.(db(), comparisonId)) ?? null;
      return {
        id: step.id,
        title: step.title,
        word: more === null ? word : `${word}, ${more}`,
        locked,
        settled: settled && more === null,
      };
    }),
  );
  const work = await openJobs(db(), comparisonId);
  return {
    comparison,
    simulatedTakes: known(takesStep).simulated,
    steps,
    next: nextStep(known),
    work: work.map(({ id, subject_id: subjectId, label, state, progress, remark }) => ({
      id,
      subjectId,
      label,
      state,
      progress,
      remark,
    })),
  };
}

export interface ComparisonLine extends ListedComparison {
  next: string;
  chains: number;
  listeners: number;
  answers: number;
}

export interface ComparisonList {
  query: ComparisonQuery;
  lines: ComparisonLine[];
  /** Comparisons that hold the text that is looked for. */
  found: number;
  all: number;
}

/** A page of the bank's list: each comparison with what was paid in, and what to do next. Seven queries, whatever its size. */
export async function comparisonList(
  { accountId }: SignedIn,
  query: ComparisonQuery,
): Promise<ComparisonList> {
  const counts = await countComparisons(db(), accountId, query.q);
  // Whoever asks for a page behind the last gets the last.
  const page = pageWithin(query.page, counts.found);
  const listed = await listComparisons(db(), accountId, { ...query, page });
  const standing = await standingsOf(
    db(),
    listed.map(({ id }) => id),
  );
  const lines = listed.map((comparison) => {
    const known = standing(comparison.id);
    const { listeners, answers } = known(sittingStep);
    return {
      ...comparison,
      next: nextStep(known).text,
      chains: known(chainsStep).chains,
      listeners,
      answers,
    };
  });
  return { query: { ...query, page }, lines, ...counts };
}
