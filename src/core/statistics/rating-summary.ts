import { blockFormP, blockStatistic } from './block-test';
import { quantile } from './distributions';
import { sortedNames } from './pair/judgements';

export interface Rating {
  listener: string;
  chain: string;
  /** 0 … 100. */
  value: number;
}

export interface RatingSummary {
  chains: {
    chain: string;
    /** Single ratings. */
    n: number;
    /** Mean over the listeners' own means, and its 95 % t interval; null for one listener. */
    mean: number;
    ci95: [number, number] | null;
  }[];
  /** Listeners who rated every chain. */
  listeners: number;
  /** Friedman's test in its F form (Iman & Davenport 1980), over complete listeners; null when it cannot be made. */
  pF: number | null;
  kendallW: number | null;
}

/** Ranks 1 … k, ties at their middle. */
export function midRanks(values: readonly number[]): number[] {
  return values.map((value) => {
    const below = values.filter((other) => other < value).length;
    const equal = values.filter((other) => other === value).length;
    return below + (equal + 1) / 2;
  });
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** Means per chain with the listener as the unit, and whether any chain differs at all. */
export function summarizeRatings(ratings: readonly Rating[]): RatingSummary {
  const chains = sortedNames(ratings.map(({ chain }) => chain));
  const listeners = sortedNames(ratings.map(({ listener }) => listener));
  const own = (listener: string, chain: string) => {
    const values = ratings
      .filter((rating) => rating.listener === listener && rating.chain === chain)
      .map(({ value }) => value);
    // Rounded, so that equal means stay ties.
    return values.length === 0 ? null : Number(mean(values).toFixed(9));
  };
  const table = listeners.map((listener) => chains.map((chain) => own(listener, chain)));
  const complete = table.filter((row): row is number[] => row.every((value) => value !== null));
  const testable = complete.length >= 2 && chains.length >= 2;
  const statistic = testable ? blockStatistic(complete.map(midRanks)) : null;
  return {
    chains: chains.map((chain, j) => {
      const means = table.flatMap((row) => row[j] ?? []);
      const centre = mean(means);
      const variance =
        means.reduce((sum, value) => sum + (value - centre) ** 2, 0) / (means.length - 1);
      const reach =
        means.length < 2
          ? null
          : quantile(0.975, means.length - 1) * Math.sqrt(variance / means.length);
      return {
        chain,
        n: ratings.filter((rating) => rating.chain === chain).length,
        mean: centre,
        ci95: reach === null ? null : [centre - reach, centre + reach],
      };
    }),
    listeners: complete.length,
    pF: statistic === null ? null : blockFormP(statistic, complete.length, chains.length),
    kendallW: statistic === null ? null : statistic / (complete.length * (chains.length - 1)),
  };
}
