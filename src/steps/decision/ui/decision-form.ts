import type { DecisionDraft } from '@/steps/decision/schema';
import type { DecisionView } from '@/steps/decision/service';
import { placeName } from './words';

/** A decision as it is begun: the newest one, else a line for each place with what the table says. */
export function draftOf({
  locked,
  places,
  chains,
  cheapest,
  sitting,
}: DecisionView): DecisionDraft {
  const [newest] = locked;
  if (newest) {
    const { uses, reasons, wouldChange, decidedBy } = newest.record;
    const there = new Set(chains.map(({ id }) => id));
    return {
      uses: uses.map(({ use, verdict, chainId }) => ({
        use,
        verdict,
        chainId: chainId !== null && there.has(chainId) ? chainId : null,
      })),
      reasons: [...reasons],
      wouldChange,
      decidedBy,
      listenAgain: null,
    };
  }
  const chosen = chains.find(({ name }) => name === cheapest)?.id ?? null;
  const uses = places.length > 0 ? places.map(placeName) : [''];
  return {
    uses: uses.map((use) => ({
      use: use === 'heard blind' ? '' : use,
      verdict: 'chosen',
      chainId: chosen,
    })),
    reasons: [{ text: '', rests: sitting ? 'heard' : 'by ear alone' }],
    wouldChange: '',
    decidedBy: '',
    listenAgain: null,
  };
}
