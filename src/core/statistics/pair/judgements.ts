import { sortedNames } from '@/core/text/order';
import type { PairChoice } from '../observation';
import { once } from '../once';

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

export const indexJudgements = once((rows: readonly PairJudgement[]): PairData => {
  const [chainNames, listenerNames] = [new Set<string>(), new Set<string>()];
  for (const { chain, chainB, listener } of rows) {
    chainNames.add(chain).add(chainB);
    listenerNames.add(listener);
  }
  const [chains, listeners] = [sortedNames(chainNames), sortedNames(listenerNames)];
  const chainIndex = new Map(chains.map((name, i) => [name, i]));
  const listenerIndex = new Map(listeners.map((name, i) => [name, i]));
  const judgements = rows.map((row): PairData['judgements'][number] => {
    const [x, y] = [chainIndex.get(row.chain)!, chainIndex.get(row.chainB)!];
    const listener = listenerIndex.get(row.listener)!;
    const order = row.first === '' ? 0 : row.first === 'a' ? 1 : -1;
    if (x < y) return { listener, a: x, b: y, order, response: row.response };
    const turned = order === 0 ? 0 : order === 1 ? -1 : 1;
    return { listener, a: y, b: x, order: turned, response: SWAPPED[row.response] };
  });
  return { chains, listeners, judgements };
});
