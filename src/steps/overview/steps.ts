import type { Db } from '@/platform/database';
import { chainsStep } from '@/steps/chains/step';
import { questionStep } from '@/steps/comparisons/step';
import type { Comparison } from '@/steps/comparisons/schema';
import { decisionStep } from '@/steps/decision/step';
import { matchStep } from '@/steps/match/step';
import { resultsStep } from '@/steps/results/step';
import { sittingStep } from '@/steps/sitting/step';
import type { Known, Step, StepLook } from '@/steps/step';
import { takesStep } from '@/steps/takes/step';

/** The steps of a comparison, in the order of the work: tabs, what to do next, and the list are made of them. */
export const STEPS = [
  questionStep,
  chainsStep,
  takesStep,
  matchStep,
  sittingStep,
  resultsStep,
  decisionStep,
] as const;
export type StepId = (typeof STEPS)[number]['id'];

/** Where a comparison stands: a tab per step, and what to do next. */
export interface Overview {
  comparison: Comparison;
  /** Takes of the simulated bench, marked wherever the comparison is looked at. */
  simulatedTakes: number;
  steps: ({ id: StepId; title: string } & Omit<StepLook, 'todo'>)[];
  next: { step: StepId; text: string };
  work: {
    id: string;
    /** Row that it is about. */
    subjectId: string;
    label: string;
    state: string;
    progress: number;
    remark: string | null;
  }[];
}

/** What all steps know of comparisons: one query a step. */
export async function standingsOf(
  db: Db,
  comparisonIds: readonly string[],
): Promise<(comparisonId: string) => Known> {
  const all = new Map<Step<string, unknown>, Map<string, unknown>>(
    await Promise.all(
      STEPS.map(async (step: Step<string, unknown>) => {
        return [step, await step.standing(db, comparisonIds)] as const;
      }),
    ),
  );
  return (comparisonId) =>
    <Figures>(step: Step<string, Figures>) =>
      (all.get(step)?.get(comparisonId) as Figures | undefined) ?? step.nothing;
}

/** What is to be done next: what the first step asks for that asks for something. */
export function nextStep(known: Known): Overview['next'] {
  for (const step of STEPS) {
    const { todo } = step.look(known);
    if (todo !== null) return { step: step.id, text: todo };
  }
  const { id } = STEPS[STEPS.length - 1]!;
  return { step: id, text: 'Nothing is left to do.' };
}
