import { byComparison, type Step } from '@/steps/step';
import { takesStep } from '@/steps/takes/step';
import { clipSetStates } from './store';

interface MatchStanding {
  sets: number;
  /** Of the newest set that is ready, how far its worst clip is from the target; null when none is. */
  worstResidualLu: number | null;
  /** Clips are being made. */
  being: boolean;
}

export const matchStep: Step<'match', MatchStanding> = {
  id: 'match',
  title: 'Match',
  nothing: { sets: 0, worstResidualLu: null, being: false },
  standing: async (db, ids) => byComparison(await clipSetStates(db, ids)),
  look: (known) => {
    const { sets, worstResidualLu, being } = known(matchStep);
    const { assigned } = known(takesStep);
    const common = { locked: assigned < 2 && sets === 0, settled: worstResidualLu !== null };
    if (worstResidualLu !== null) {
      const word = `±${Math.max(0.01, worstResidualLu).toFixed(2)} LU`;
      return { ...common, word, todo: null };
    }
    if (being) {
      const todo = 'The clips are being made; wait a moment.';
      return { ...common, word: 'being made', todo };
    }
    const todo = 'Mark the passage and match the clips.';
    return { ...common, word: assigned < 2 ? 'needs two takes' : 'to do', todo };
  },
};
