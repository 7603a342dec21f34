import { sortedNames } from '@/core/text/order';
import { correlation } from '../ranks';
import { meanOf, type PlacedChain } from './cells';

export interface Repeatability {
  listener: string;
  /** Pooled standard deviation within what was placed more than once, points. */
  sdOfReplicates: number;
  df: number;
  /** Of the first with the second placing; null under three of both. */
  correlation: number | null;
}

const FEWEST_CELLS = 3;

/** How near to themselves listeners came who placed something more than once. */
export function repeatability(ratings: readonly PlacedChain[]): Repeatability[] {
  const cells = new Map<string, Map<string, PlacedChain[]>>();
  for (const one of ratings) {
    const own = cells.get(one.listener) ?? new Map<string, PlacedChain[]>();
    cells.set(one.listener, own);
    const key = `${one.source}\n${one.context}\n${one.chain}`;
    const cell = own.get(key);
    if (cell) cell.push(one);
    else own.set(key, [one]);
  }
  return sortedNames(cells.keys()).flatMap((listener) => {
    let [squares, df] = [0, 0];
    const [firsts, seconds]: [number[], number[]] = [[], []];
    for (const cell of cells.get(listener)?.values() ?? []) {
      const centre = meanOf(cell.map(({ value }) => value));
      squares += cell.reduce((sum, { value }) => sum + (value - centre) ** 2, 0);
      df += cell.length - 1;
      const of = (which: number) =>
        cell.flatMap(({ replicate, value }) => (replicate === which ? [value] : []));
      const [first, second] = [of(1), of(2)];
      if (first.length === 0 || second.length === 0) continue;
      firsts.push(meanOf(first));
      seconds.push(meanOf(second));
    }
    if (df === 0) return [];
    return {
      listener,
      sdOfReplicates: Math.sqrt(squares / df),
      df,
      correlation: firsts.length < FEWEST_CELLS ? null : correlation(firsts, seconds),
    };
  });
}
