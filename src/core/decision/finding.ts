import { list } from '@/core/statistics/words';

/** What is still open after the must-haves, in the place that counts most. */
export interface Standing {
  chains: number;
  /** Names of chains that no must-have knocks out. */
  left: readonly string[];
  /** Null where nothing was heard blind. */
  heard: {
    /** '' where there is but one place. */
    place: string;
    /** Whether the sealed analysis claims anything there. */
    claimed: boolean;
    /** Chains that may be the best there, of all that were heard. */
    leaders: readonly string[];
  } | null;
  /** All its prices known; null for a chain without. */
  priceOf: (chain: string) => number | null;
}

const NUMBERS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine'];
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Of several the one that costs least; null where a price is missing, or two cost the same. */
export function cheapestOf(chains: readonly string[], priceOf: Standing['priceOf']): string | null {
  const priced = chains.flatMap((chain) => {
    const price = priceOf(chain);
    return price === null ? [] : [{ chain, price }];
  });
  const [first, second] = priced.sort((x, y) => x.price - y.price);
  if (!first || priced.length < chains.length) return null;
  return second && second.price === first.price ? null : first.chain;
}

function heardAmong({ left, heard, priceOf }: Standing): string {
  if (!heard) return 'nothing was heard blind';
  const where = heard.place ? `${heard.place}: ` : '';
  if (!heard.claimed) return `${where}no preference was shown`;
  const open = heard.leaders.filter((chain) => left.includes(chain));
  if (open.length === 0) {
    return heard.leaders.length > 0
      ? `${where}none of them may be the best`
      : `${where}no single one leads`;
  }
  if (open.length === 1) return `${where}${open[0]} may be the best`;
  const cheapest = cheapestOf(open, priceOf);
  const names =
    open.length > 3 ? `${open.length} may be the best` : `${list(open, 'or')} may be the best`;
  return `${where}${names}${cheapest ? `; ${cheapest} costs least of them` : ''}`;
}

/** What stands at the head of the decision; it claims no more than the sealed analysis does. */
export function decisionFinding(standing: Standing): string {
  const { chains, left } = standing;
  if (chains === 0) return 'There are no chains to decide between.';
  if (left.length === 0) return 'No chain is left: each fails a must-have.';
  const count = NUMBERS[left.length] ?? String(left.length);
  if (left.length === 1 && chains > 1) {
    return `One chain is left, ${left[0]}. ${capital(heardAmong(standing))}.`;
  }
  const chainsAre = left.length === 1 ? 'chain is' : 'chains are';
  return `${count} ${chainsAre} left. ${capital(heardAmong(standing))}.`;
}

/** Log odds as choices in 100 that go the other way than by chance. */
export const choicesOf = (logOdds: number) => 100 * (1 / (1 + Math.exp(-logOdds)) - 0.5);

/** What is lost by taking one chain instead of the strongest that is priced. */
export interface Regret {
  chain: string;
  instead: string;
  savedCents: number;
  /** Choices in 100, or points of the line: where the panel was right, and on average over its scatter. */
  ifRight: number;
  onAverage: number;
  unit: 'choices' | 'points';
}

/** A chain with its price and what resampled panels say of it. */
export interface Valued {
  chain: string;
  /** Hundredths of money. */
  price: number;
  strength: number;
  /** Mean of what is lost against the strongest, in the unit of strength. */
  expectedLoss: number;
}

/** Null where the cheaper one is the strongest itself, or one of the two is not priced. */
export function regretOf(
  cheaper: string,
  chains: readonly Valued[],
  task: 'pair' | 'rating',
): Regret | null {
  const own = chains.find(({ chain }) => chain === cheaper);
  const strongest = chains.reduce<Valued | null>(
    (most, one) => (most === null || one.strength > most.strength ? one : most),
    null,
  );
  if (!own || !strongest || own === strongest || strongest.price <= own.price) return null;
  const size = task === 'pair' ? choicesOf : (points: number) => points;
  return {
    chain: cheaper,
    instead: strongest.chain,
    savedCents: strongest.price - own.price,
    ifRight: size(strongest.strength - own.strength),
    onAverage: size(own.expectedLoss),
    unit: task === 'pair' ? 'choices' : 'points',
  };
}
