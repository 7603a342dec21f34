import { sittingStep } from '@/steps/sitting/step';
import type { Step } from '@/steps/step';

export const resultsStep = {
  id: 'results',
  title: 'Results',
  nothing: null,
  standing: () => Promise.resolve(new Map<string, null>()),
  look: (known) => {
    const { closed } = known(sittingStep);
    return {
      word: closed ? 'open' : 'opens at close',
      locked: !closed,
      settled: closed,
      // Reading leads to deciding, which tells of both.
      todo: null,
    };
  },
} as const satisfies Step<'results', null>;
