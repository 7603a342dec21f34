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

function agreement(values: Values, listener: string): number | null {
  const own = values.get(listener);
  const shared = sortedNames(own?.keys() ?? []).flatMap((chain) => {
    const others = [...values].flatMap(([other, of]) =>
      other === listener ? [] : (of.get(chain) ?? []),
    );
    return others.length === 0 ? [] : [{ own: own?.get(chain) ?? 0, others: meanOf(others) }];
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
  return new Map(
    [...values].map(([listener, own]) => {
      const chains = sortedNames(own.keys()).map((chain) => ({
        chain,
        value: own.get(chain) ?? 0,
      }));
      const order = grouped(chains.map(({ value }) => value)).map((group) =>
        sortedNames(group.map((i) => chains[i]!.chain)),
      );
      return [listener, { chains, order, agreement: agreement(compared, listener) }];
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
