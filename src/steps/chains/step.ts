import { byComparison, type Step } from '@/steps/step';
import { chainCounts } from './store';

export const chainsStep: Step<'chains', { chains: number }> = {
  id: 'chains',
  title: 'Chains',
  nothing: { chains: 0 },
  standing: async (db, ids) => byComparison(await chainCounts(db, ids)),
  look: (known) => {
    const { chains } = known(chainsStep);
    return {
      word: chains === 0 ? 'none yet' : String(chains),
      locked: false,
      settled: chains > 1,
      todo: chains < 2 ? 'Name at least two chains.' : null,
    };
  },
};
