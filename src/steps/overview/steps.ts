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

/** What decides the next step. */
export interface Standing {
  chains: number;
  /** Chains with a take to be matched. */
  assigned: number;
  /** Clips are ready, or being made. */
  matched: boolean;
  being: boolean;
  /** A sitting takes answers, or some was closed. */
  open: boolean;
  closed: boolean;
}

/** What is to be done next. */
export function nextStep(standing: Standing): Overview['next'] {
  const { chains, assigned, matched, being, open, closed } = standing;
  if (chains < 2) return { step: 'chains', text: 'Name at least two chains.' };
  if (assigned < 2) return { step: 'takes', text: 'Drop a take of each chain.' };
  if (!matched) {
    return being
      ? { step: 'match', text: 'The clips are being made; wait a moment.' }
      : { step: 'match', text: 'Mark the passage and match the clips.' };
  }
  if (open) return { step: 'sitting', text: 'Share the link; close when the panel has answered.' };
  if (closed) return { step: 'results', text: 'Read what the panel heard.' };
  return { step: 'sitting', text: 'Plan the sitting, seal it, invite.' };
}
