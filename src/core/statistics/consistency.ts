import { Random } from '@/core/signal/random';
import type { Of } from './observation';

/** Whether listeners agree with themselves more than chance would have them. */
export interface Consistency {
  listeners: number;
  /** Answers that chose. */
  decided: number;
  /** Sum over listeners and chains of the square of wins less losses. */
  statistic: number;
  draws: number;
  p: number;
}

const DRAWS = 999;
/** The same answers give the same figure, whatever seed the bootstrap has. */
const SEED = 1;

/**
 * Squares of net wins grow with everything that makes a listener consistent: few circles of three, the same answer
 * twice, a taste of one's own that others do not share. Against it stand answers drawn anew, each choosing the first
 * as often as all did (so that a common liking for a place is no consistency).
 * @returns null where nobody chose
 */
export function analyzeConsistency(rows: readonly Of<'pair'>[]): Consistency | null {
  const decided = rows.filter(({ response }) => response !== 'tie');
  if (decided.length === 0) return null;
  const cells = new Map<string, number>();
  const cellOf = (listener: string, chain: string) => {
    const key = JSON.stringify([listener, chain]);
    const cell = cells.get(key) ?? cells.size;
    cells.set(key, cell);
    return cell;
  };
  const trials = decided.map(({ listener, chain, chainB, first, response }) => ({
    a: cellOf(listener, chain),
    b: cellOf(listener, chainB),
    first,
    won: response === 'a',
  }));
  const known = trials.filter(({ first }) => first !== '');
  const forFirst =
    known.length === 0
      ? 0.5
      : known.filter(({ first, won }) => won === (first === 'a')).length / known.length;
  const net = new Float64Array(cells.size);
  const [sideA, sideB] = [trials.map(({ a }) => a), trials.map(({ b }) => b)];
  /** @param won of each trial, whether a was chosen */
  const squares = (won: readonly boolean[]) => {
    net.fill(0);
    for (let n = 0; n < won.length; n++) {
      const side = won[n] ? 1 : -1;
      net[sideA[n]!]! += side;
      net[sideB[n]!]! -= side;
    }
    let sum = 0;
    for (let cell = 0; cell < net.length; cell++) sum += net[cell]! * net[cell]!;
    return sum;
  };
  const drawn = trials.map(({ won }) => won);
  const statistic = squares(drawn);
  const shares = trials.map(({ first }) =>
    first === '' ? 0.5 : first === 'a' ? forFirst : 1 - forFirst,
  );
  const random = new Random(SEED);
  let asMuch = 0;
  for (let i = 0; i < DRAWS; i++) {
    for (let n = 0; n < drawn.length; n++) drawn[n] = random.uniform() < shares[n]!;
    if (squares(drawn) >= statistic) asMuch++;
  }
  return {
    listeners: new Set(decided.map(({ listener }) => listener)).size,
    decided: decided.length,
    statistic,
    draws: DRAWS,
    p: (1 + asMuch) / (1 + DRAWS),
  };
}
