import type { Step } from '@/steps/step';

export const questionStep = {
  id: 'question',
  title: 'Question',
  nothing: null,
  standing: () => Promise.resolve(new Map<string, null>()),
  look: () => ({ word: 'written', locked: false, settled: true, todo: null }),
} as const satisfies Step<'question', null>;
