import { matchStep } from '@/steps/match/step';
import { byComparison, type Step } from '@/steps/step';
import { sittingCounts, type SittingStanding } from './store';

export const sittingStep: Step<'sitting', SittingStanding> = {
  id: 'sitting',
  title: 'Sitting',
  nothing: { sittings: 0, sealed: false, open: false, closed: false, listeners: 0, answers: 0 },
  standing: async (db, ids) => byComparison(await sittingCounts(db, ids)),
  look: (known) => {
    const { sittings, sealed, open, closed } = known(sittingStep);
    const matched = known(matchStep).worstResidualLu !== null;
    const common = { locked: !matched && sittings === 0, settled: sealed };
    if (open) {
      const todo = 'Share the link; close when the panel has answered.';
      return { ...common, word: 'sealed, open', todo };
    }
    if (closed) return { ...common, word: 'closed', todo: null };
    const todo = 'Plan the sitting, seal it, invite.';
    return { ...common, word: matched ? 'to plan' : 'needs clips', todo };
  },
};
