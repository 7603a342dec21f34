import { sortedNames } from '@/core/text/order';
import { indexJudgements } from '../pair/judgements';
import { circularTriads, type Triads } from '../pair/tests';
import { correlation } from '../ranks';
import { meanOf } from '../rating/cells';
import { repeatability, type Repeatability } from '../rating/repeatability';
import type { ReadingRows } from './reading';
import { grouped, nearRanks, Outcomes, ratingValues, type Values } from './shared';

interface Liking {
  chains: { chain: string; value: number }[];
  /** Best first; equal ones together. */
  order: string[][];
  /** Spearman's correlation with the mean of the others. */
  agreement: number | null;
}

/** What one listener liked, and how far the others agree. */
export interface ReadListener {
  listener: string;
  rating: (Liking & { repeatability: Repeatability | null }) | null;
  pair: (Liking & { triads: Triads | null }) | null;
}

const FEWEST_CHAINS = 3;

/** Spearman's: Pearson on mid-ranks. */
function spearman(x: readonly number[], y: readonly number[]): number | null {
  return correlation(nearRanks(x), nearRanks(y));
}

/** Of each chain the sum of what all said, and how many said anything. */
function totalsOf(values: Values): Map<string, { sum: number; count: number }> {
  const totals = new Map<string, { sum: number; count: number }>();
  for (const own of values.values()) {
    for (const [chain, value] of own) {
      const { sum, count } = totals.get(chain) ?? { sum: 0, count: 0 };
      totals.set(chain, { sum: sum + value, count: count + 1 });
    }
  }
  return totals;
}

function agreement(
  own: ReadonlyMap<string, number>,
  totals: ReturnType<typeof totalsOf>,
): number | null {
  const shared = sortedNames(own.keys()).flatMap((chain) => {
    const { sum, count } = totals.get(chain)!;
    const value = own.get(chain)!;
    return count === 1 ? [] : [{ own: value, others: (sum - value) / (count - 1) }];
  });
  if (shared.length < FEWEST_CHAINS) return null;
  return spearman(
    shared.map((one) => one.own),
    shared.map(({ others }) => others),
  );
}

/** Everybody's values less their own mean. */
function centred(values: Values): Values {
  return new Map(
    [...values].map(([listener, own]) => {
      const middle = meanOf([...own.values()]);
      return [listener, new Map([...own].map(([chain, value]) => [chain, value - middle]))];
    }),
  );
}

function likings(values: Values, compared: Values): Map<string, Liking> {
  const totals = totalsOf(compared);
  return new Map(
    [...values].map(([listener, own]) => {
      const chains = sortedNames(own.keys()).map((chain) => ({
        chain,
        value: own.get(chain) ?? 0,
      }));
      const order = grouped(chains.map(({ value }) => value)).map((group) =>
        sortedNames(group.map((i) => chains[i]!.chain)),
      );
      return [listener, { chains, order, agreement: agreement(compared.get(listener)!, totals) }];
    }),
  );
}

/** Every listener with rows of pairs or ratings. */
export function readListeners({ pair, rating }: ReadingRows): ReadListener[] {
  const ratings = ratingValues(rating);
  const pairs = Outcomes.of(pair).values();
  const [rated, paired] = [likings(ratings, centred(ratings)), likings(pairs, pairs)];
  const repeats = repeatability(rating);
  const triads = pair.length === 0 ? [] : circularTriads(indexJudgements(pair));
  return sortedNames([...rated.keys(), ...paired.keys()]).map((listener) => {
    const [ofRating, ofPair] = [rated.get(listener), paired.get(listener)];
    return {
      listener,
      rating: ofRating
        ? { ...ofRating, repeatability: repeats.find((row) => row.listener === listener) ?? null }
        : null,
      pair: ofPair
        ? { ...ofPair, triads: triads.find((row) => row.listener === listener) ?? null }
        : null,
    };
  });
}
