import { sortedNames } from '@/core/text/order';
import type { PairChoice } from '../observation';

export type PairResponse = PairChoice['response'];
/** One answer: which of two chains, and which came first. */
export type PairJudgement = Pick<PairChoice, 'chain' | 'chainB' | 'first' | 'response'> & {
  listener: string;
};

/** Judgements by number instead of name, each pair with the lower chain as a. */
export interface PairData {
  chains: string[];
  listeners: string[];
  judgements: {
    listener: number;
    a: number;
    b: number;
    /** +1 a came first, -1 b did, 0 unknown. */
    order: -1 | 0 | 1;
    response: PairResponse;
  }[];
}

const SWAPPED = { a: 'b', b: 'a', tie: 'tie' } as const;

export function indexJudgements(rows: readonly PairJudgement[]): PairData {
  const chains = sortedNames(rows.flatMap((row) => [row.chain, row.chainB]));
  const listeners = sortedNames(rows.map((row) => row.listener));
  const chainIndex = new Map(chains.map((name, i) => [name, i]));
  const listenerIndex = new Map(listeners.map((name, i) => [name, i]));
  const indexOf = (map: Map<string, number>, name: string) => map.get(name) ?? -1;
  return {
    chains,
    listeners,
    judgements: rows.map((row) => {
      const [x, y] = [indexOf(chainIndex, row.chain), indexOf(chainIndex, row.chainB)];
      const order = row.first === '' ? 0 : row.first === 'a' ? 1 : -1;
      const listener = indexOf(listenerIndex, row.listener);
      return x < y
        ? { listener, a: x, b: y, order, response: row.response }
        : {
            listener,
            a: y,
            b: x,
            order: order === 0 ? 0 : order === 1 ? -1 : 1,
            response: SWAPPED[row.response],
          };
    }),
  };
}
