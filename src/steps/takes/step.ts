import { chainsStep } from '@/steps/chains/step';
import { byComparison, type Step } from '@/steps/step';
import { checkedTakes } from './service';
import { takeCounts } from './store';

interface TakesStanding {
  takes: number;
  /** Chains with a take to be matched. */
  assigned: number;
  /** Of the simulated bench. */
  simulated: number;
}

export const takesStep: Step<'takes', TakesStanding> = {
  id: 'takes',
  title: 'Takes',
  nothing: { takes: 0, assigned: 0, simulated: 0 },
  standing: async (db, ids) => byComparison(await takeCounts(db, ids)),
  look: (known) => {
    const { takes, assigned } = known(takesStep);
    const { chains } = known(chainsStep);
    return {
      word: takes === 0 ? 'none yet' : `${assigned} of ${chains}`,
      locked: false,
      settled: assigned > 1 && assigned === chains,
      todo: assigned < 2 ? 'Drop a take of each chain.' : null,
    };
  },
  // Checks are worked out from what was measured of all takes, which is too much for a list.
  closely: async (db, comparisonId) => {
    const takes = await checkedTakes(db, comparisonId);
    const problem = takes.some(({ checks, overrides }) =>
      checks.some(
        ({ severity, check }) =>
          severity === 'problem' && !overrides.some((one) => one.check === check),
      ),
    );
    return problem ? 'look' : null;
  },
};
