import { sittingStep } from '@/steps/sitting/step';
import { byComparison, type Step } from '@/steps/step';
import { decisionCounts } from './store';

export const decisionStep: Step<'decision', { versions: number; due: boolean }> = {
  id: 'decision',
  title: 'Decision',
  nothing: { versions: 0, due: false },
  standing: async (db, ids) => byComparison(await decisionCounts(db, ids)),
  look: (known) => {
    const { versions, due } = known(decisionStep);
    const { closed } = known(sittingStep);
    const common = { locked: false, settled: versions > 0 && !due };
    if (due) return { ...common, word: 'listen again', todo: 'It is time to listen again.' };
    if (versions > 0) return { ...common, word: 'written', todo: null };
    return {
      ...common,
      word: closed ? 'open' : 'not yet',
      todo: closed ? 'Read what the panel heard, then write the decision.' : null,
    };
  },
};
