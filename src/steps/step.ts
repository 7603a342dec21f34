import type { Db } from '@/platform/database';

/** How a step stands in its tab, and what is to be done in it; null when nothing is. */
export interface StepLook {
  word: string;
  locked: boolean;
  settled: boolean;
  todo: string | null;
}

/** What steps know of one comparison, asked step by step. */
export type Known = <Figures>(of: Step<string, Figures>) => Figures;

/**
 * A step of a comparison: a tab, a page of that name, and where a comparison stands in it. What it says may rest
 * on earlier steps, whose figures it asks for by the step.
 */
export interface Step<Id extends string, Figures> {
  /** Last part of its page's address. */
  id: Id;
  title: string;
  /** Of a comparison of which `standing` says nothing. */
  nothing: Figures;
  /** One query for any number of comparisons. */
  standing(db: Db, comparisonIds: readonly string[]): Promise<Map<string, Figures>>;
  look(known: Known): StepLook;
  /** What is worth reading only for the comparison that is being looked at, as a word that is put to the step's own. */
  closely?(db: Db, comparisonId: string): Promise<string | null>;
}

/** Rows of one query by the comparison that they are of. */
export function byComparison<Row extends { comparisonId: string }>(
  rows: readonly Row[],
): Map<string, Row> {
  return new Map(rows.map((row) => [row.comparisonId, row]));
}
