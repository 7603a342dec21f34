import type { Comparison } from '@/steps/comparisons/schema';

export const STEPS = ['question', 'chains', 'takes', 'match', 'sitting', 'results'] as const;
export type StepName = (typeof STEPS)[number];

/** Where a comparison stands: a word per step, and what to do next. */
export interface Overview {
  comparison: Comparison;
  /** Takes of the simulated bench, marked wherever the comparison is looked at. */
  simulatedTakes: number;
  states: Record<StepName, { word: string; locked: boolean; settled: boolean }>;
  next: { step: StepName; text: string };
  work: { id: string; label: string; state: string; progress: number; remark: string | null }[];
}
