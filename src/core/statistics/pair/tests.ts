import { Matrix } from 'ml-matrix';
import { blockFormP, blockStatistic } from '../block-test';
import { chiSquareTail, holm, signTest } from '../distributions';
import type { PairData } from './judgements';
import { inverseOf } from '../linear';

export interface PanelTest {
  statistic: number;
  df: number;
  listeners: number;
  approximation: 'F' | 'chi2';
  p: number;
}

const FEWEST_LISTENERS = 3;

/** From the side of a. */
export const OUTCOME = { a: 1, b: -1, tie: 0 } as const;
/** What rounding leaves of a listener without any net win. */
const NOTHING = 1e-9;

/** Mean outcome from the side of whichever came first, over all judgements of known order. */
export function likingForFirst({ judgements }: Pick<PairData, 'judgements'>): number {
  const known = judgements.filter(({ order }) => order !== 0);
  const sum = known.reduce((total, { order, response }) => total + order * OUTCOME[response], 0);
  return known.length === 0 ? 0 : sum / known.length;
}

/**
 * Test of "no chain differs" with the listener as the unit, on each listener's net wins per chain, corrected for a
 * common liking for the one that came first. Complete panels: block test in F form; else a quadratic form with
 * chi-square.
 */
export function panelTest(data: PairData): PanelTest | null {
  const k = data.chains.length;
  const net = data.listeners.map(() => new Array<number>(k).fill(0));
  const judged = data.listeners.map(() => new Set<number>());
  const forFirst = likingForFirst(data);
  for (const { listener, a, b, order, response } of data.judgements) {
    judged[listener]!.add(a).add(b);
    // Seen from a, less what is due to a's place; so that one order for all cannot pass for a difference.
    const won = OUTCOME[response] - order * forFirst;
    net[listener]![a]! += won;
    net[listener]![b]! -= won;
  }
  const weights = net.map(
    (row, g) => row.reduce((sum, x) => sum + x * x, 0) / (judged[g]!.size - 1),
  );
  if (weights.filter((v) => v > NOTHING).length < FEWEST_LISTENERS) return null;
  const covariance = Matrix.zeros(k, k);
  judged.forEach((chains, g) => {
    for (const i of chains) {
      for (const j of chains) {
        const entry = (i === j ? 1 : 0) - 1 / chains.size;
        covariance.set(i, j, covariance.get(i, j) + weights[g]! * entry);
      }
    }
  });
  const inverse = inverseOf(covariance.subMatrix(0, k - 2, 0, k - 2));
  if (!inverse) return null;
  const listeners = data.listeners.length;
  if (judged.every((chains) => chains.size === k)) {
    const statistic = blockStatistic(net);
    if (statistic === null) return null;
    const p = blockFormP(statistic, listeners, k);
    return { statistic, df: k - 1, listeners, approximation: 'F', p };
  }
  const sums = Matrix.columnVector(
    Array.from({ length: k - 1 }, (_, j) => net.reduce((sum, row) => sum + row[j]!, 0)),
  );
  const statistic = sums.transpose().mmul(inverse).mmul(sums).get(0, 0);
  const p = chiSquareTail(statistic, k - 1);
  return { statistic, df: k - 1, listeners, approximation: 'chi2', p };
}

export interface PairRow {
  a: string;
  b: string;
  aWins: number;
  bWins: number;
  ties: number;
  pTwoSided: number;
  pHolm: number;
  listenersA: number;
  listenersB: number;
  listenersTied: number;
  pListener: number;
  pListenerHolm: number;
}

/** Net wins for a of each listener that judged the pair, by pair. */
function netByPair(data: PairData): Map<number, Map<number, number>> {
  const k = data.chains.length;
  const pairs = new Map<number, Map<number, number>>();
  for (const { listener, a, b, response } of data.judgements) {
    const key = a * k + b;
    const votes = pairs.get(key) ?? new Map<number, number>();
    pairs.set(key, votes);
    const vote = response === 'a' ? 1 : response === 'b' ? -1 : 0;
    votes.set(listener, (votes.get(listener) ?? 0) + vote);
  }
  return pairs;
}

/** Exact sign tests of every judged pair, over judgements (ISO 5495) and over listeners. */
export function pairTable(data: PairData): PairRow[] {
  const k = data.chains.length;
  const rows = [...netByPair(data)]
    .sort(([x], [y]) => x - y)
    .map(([key, votes]) => {
      const [a, b] = [Math.floor(key / k), key % k];
      const of = data.judgements.filter((judgement) => judgement.a === a && judgement.b === b);
      const count = (response: string) => of.filter((j) => j.response === response).length;
      const voters = (sign: number) =>
        [...votes.values()].filter((vote) => Math.sign(vote) === sign).length;
      const [aWins, bWins, ties] = [count('a'), count('b'), count('tie')];
      const [listenersA, listenersB, listenersTied] = [voters(1), voters(-1), voters(0)];
      return {
        a: data.chains[a]!,
        b: data.chains[b]!,
        aWins,
        bWins,
        ties,
        pTwoSided: signTest(aWins, aWins + bWins),
        listenersA,
        listenersB,
        listenersTied,
        pListener: signTest(listenersA, listenersA + listenersB),
      };
    });
  const pHolm = holm(rows.map((row) => row.pTwoSided));
  const pListenerHolm = holm(rows.map((row) => row.pListener));
  return rows.map((row, i) => ({
    ...row,
    pHolm: pHolm[i] ?? 1,
    pListenerHolm: pListenerHolm[i] ?? 1,
  }));
}

export interface Triads {
  listener: string;
  triads: number;
  decidedTriads: number;
  max: number | null;
  zeta: number | null;
}

/** Circular triads and consistency ζ per listener (Kendall & Babington Smith 1940). */
export function circularTriads(data: PairData): Triads[] {
  const k = data.chains.length;
  if (k < 3) return [];
  const pairs = netByPair(data);
  return data.listeners.map((listener, g) => {
    const prefers = (i: number, j: number) => {
      const net = pairs.get(Math.min(i, j) * k + Math.max(i, j))?.get(g) ?? 0;
      return Math.sign(i < j ? net : -net);
    };
    let [triads, decidedTriads] = [0, 0];
    for (let i = 0; i < k; i++) {
      for (let j = i + 1; j < k; j++) {
        for (let l = j + 1; l < k; l++) {
          const [x, y, z] = [prefers(i, j), prefers(j, l), prefers(l, i)];
          if (x === 0 || y === 0 || z === 0) continue;
          decidedTriads++;
          if (x === y && y === z) triads++;
        }
      }
    }
    const all = (k * (k - 1) * (k - 2)) / 6;
    const max = (k % 2 === 1 ? k ** 3 - k : k ** 3 - 4 * k) / 24;
    return decidedTriads === all
      ? { listener, triads, decidedTriads, max, zeta: 1 - triads / max }
      : { listener, triads, decidedTriads, max: null, zeta: null };
  });
}
