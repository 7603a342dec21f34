import { OUTCOMES } from '@/core/memory/outcome';
import type { Outcomes, RememberedChain } from '@/core/memory/shortest-bench';
import { countWord } from '@/ui/format';

const SAID: Record<keyof Outcomes, string> = {
  won: 'won',
  'may be the best': 'may be the best',
  behind: 'behind',
  'nothing shown': 'nothing shown',
};

/** "won 1, behind 2, of 3 places"; '' where it was never heard. */
function outcomesText(outcomes: Outcomes): string {
  const all = OUTCOMES.reduce((sum, outcome) => sum + outcomes[outcome], 0);
  if (all === 0) return '';
  const told = OUTCOMES.filter((outcome) => outcomes[outcome] > 0).map(
    (outcome) => `${SAID[outcome]} ${outcomes[outcome]}`,
  );
  return `${told.join(', ')}, of ${countWord(all, 'place').toLowerCase()}`;
}

/** Why a chain stands on the bench, place by place and in no weight. */
export function reasonsOf({ alike, elsewhere }: Pick<RememberedChain, 'alike' | 'elsewhere'>): {
  here: string;
  elsewhere: string;
} {
  return {
    here: outcomesText(alike) || 'never heard in such a place',
    elsewhere: outcomesText(elsewhere) || 'never heard',
  };
}

/** What the page says first. */
export function benchFinding(
  q: string,
  { picks, wildcard }: { picks: readonly unknown[]; wildcard: unknown },
): string {
  if (picks.length === 0) {
    return wildcard === null
      ? `Nothing that was heard proposes a chain for “${q}”`
      : `Nothing led for “${q}” yet; one cheap chain is worth a try`;
  }
  const chains = countWord(picks.length, 'chain');
  return `${chains} to record for “${q}”${wildcard === null ? '' : ', and a cheap one'}`;
}
