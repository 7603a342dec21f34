import { sortedNames } from '@/core/text/order';
import type { Circumstances, Rating } from '../observation';
import { once } from '../once';

/** One place on a line, of one listener. */
export interface RatedChain {
  listener: string;
  chain: string;
  value: number;
}

/** One placing, with where it was made. */
export type PlacedChain = Pick<Circumstances, 'listener' | 'source' | 'context' | 'replicate'> &
  Pick<Rating, 'chain' | 'value'>;

/** Means of each listener for each chain; null where there is none. */
export interface RatingTable {
  listeners: string[];
  chains: string[];
  /** By listener, then chain. */
  means: (number | null)[][];
}

export const meanOf = (values: readonly number[]) =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** Standard deviation with n − 1; null for fewer than two. */
export function deviationOf(values: readonly number[]): number | null {
  if (values.length < 2) return null;
  const centre = meanOf(values);
  const sum = values.reduce((total, value) => total + (value - centre) ** 2, 0);
  return Math.sqrt(sum / (values.length - 1));
}

/** To nine decimals, so that what is equal stays a tie. */
export const rounded = (value: number) => Number(value.toFixed(9));

export const ratingTable = once((ratings: readonly RatedChain[]): RatingTable => {
  const listeners = sortedNames(ratings.map(({ listener }) => listener));
  const chains = sortedNames(ratings.map(({ chain }) => chain));
  const values = listeners.map(() => chains.map((): number[] => []));
  const rowOf = new Map(listeners.map((name, g) => [name, g]));
  const columnOf = new Map(chains.map((name, j) => [name, j]));
  for (const { listener, chain, value } of ratings) {
    values[rowOf.get(listener) ?? 0]![columnOf.get(chain) ?? 0]!.push(value);
  }
  const means = values.map((row) =>
    row.map((own) => (own.length === 0 ? null : rounded(meanOf(own)))),
  );
  return { listeners, chains, means };
});

/** Rows of those who have every chain. */
export function completeRows({ means }: RatingTable): number[][] {
  return means.filter((row): row is number[] => row.every((value) => value !== null));
}
