import { sortedNames } from '@/core/text/order';
import { blockFormP, blockStatistic } from '../block-test';
import { holm } from '../distributions';
import { meanOf } from '../rating/cells';
import { pairPlaces, ratingPlaces, type ReadCell } from './cells';
import type { Read, ReadingRows } from './reading';
import {
  LEVEL,
  nearRanks,
  Outcomes,
  ratingValues,
  READ_TASKS,
  type ReadTask,
  topOf,
  type Values,
} from './shared';

export interface Place {
  source: string;
  context: string;
}

/** Whether strengths move between two places that differ in source or in context. */
export interface Interaction {
  task: ReadTask;
  varies: 'source' | 'context';
  first: Place;
  second: Place;
  /** Chains in both. */
  chains: number;
  /** Complete in both. */
  listeners: number;
  statistic: number | null;
  df: number | null;
  p: number | null;
  pHolm: number | null;
  /** How much each chain gains from the first to the second, less what the listener gives to all. */
  shifts: { chain: string; shift: number }[];
  tauB: number | null;
  topChanged: boolean | null;
}

const FEWEST_LISTENERS = 5;

/** Values of complete listeners in the first and the second place, by chain. */
interface Both {
  first: number[][];
  second: number[][];
}

function bothRated(rows: [ReadingRows['rating'], ReadingRows['rating']], chains: string[]): Both {
  const [one, two] = rows.map(ratingValues) as [Values, Values];
  const of = (values: typeof one, listener: string) =>
    chains.flatMap((chain) => values.get(listener)?.get(chain) ?? []);
  const complete = sortedNames([...one.keys(), ...two.keys()]).filter((listener) =>
    [one, two].every((values) => of(values, listener).length === chains.length),
  );
  return {
    first: complete.map((listener) => of(one, listener)),
    second: complete.map((listener) => of(two, listener)),
  };
}

/** Net shares over opponents met in both places, each place's divided by its share of decided judgements. */
function bothPaired(rows: [ReadingRows['pair'], ReadingRows['pair']], chains: string[]): Both {
  const among = new Set(chains);
  // What a common liking for the first is taken from is what both places share.
  const shared = ({ chain, chainB }: (typeof rows)[0][0]) => among.has(chain) && among.has(chainB);
  const kept = rows.map((own) => (own.every(shared) ? own : own.filter(shared)));
  const outcomes = kept.map((own) => Outcomes.of(own));
  const enters = (listener: string, chain: string, opponent: string) =>
    among.has(chain) &&
    among.has(opponent) &&
    outcomes.every((of) => of.met(listener, chain, opponent));
  const shares = (of: Outcomes, listener: string) =>
    chains.flatMap(
      (chain) => of.share(listener, chain, (opponent) => enters(listener, chain, opponent)) ?? [],
    );
  const complete = sortedNames(outcomes.flatMap(({ listeners }) => listeners)).filter((listener) =>
    outcomes.every((of) => shares(of, listener).length === chains.length),
  );
  const known = new Set(complete);
  const [first, second] = outcomes.map((of, i) => {
    const entered = kept[i]!.filter(
      ({ listener, chain, chainB }) => known.has(listener) && enters(listener, chain, chainB),
    );
    const decided = entered.filter(({ response }) => response !== 'tie').length;
    const share = decided === 0 ? 1 : decided / entered.length;
    return complete.map((listener) => shares(of, listener).map((value) => value / share));
  }) as [number[][], number[][]];
  return { first, second };
}

/** Kendall's tau-b (1945); null where one side is all level. */
function tauB(x: readonly number[], y: readonly number[]): number | null {
  const sign = (a: number, b: number) => (Math.abs(a - b) <= LEVEL ? 0 : Math.sign(a - b));
  let [sum, xs, ys] = [0, 0, 0];
  for (let i = 0; i < x.length; i++) {
    for (let j = i + 1; j < x.length; j++) {
      const [a, b] = [sign(x[i]!, x[j]!), sign(y[i]!, y[j]!)];
      sum += a * b;
      xs += a * a;
      ys += b * b;
    }
  }
  return xs === 0 || ys === 0 ? null : sum / Math.sqrt(xs * ys);
}

function orderChange(cells: readonly ReadCell[], chains: readonly string[]) {
  const strengths = cells.map((cell) =>
    chains.map((chain) => ({
      chain,
      strength: cell.chains.find((row) => row.chain === chain)?.strength ?? null,
    })),
  );
  if (chains.length === 0 || strengths.flat().some(({ strength }) => strength === null)) {
    return { tauB: null, topChanged: null };
  }
  const [x, y] = strengths.map((own) => own.map(({ strength }) => strength ?? 0)) as [
    number[],
    number[],
  ];
  const [topX, topY] = strengths.map(topOf) as [string[], string[]];
  return { tauB: tauB(x, y), topChanged: !topX.some((chain) => topY.includes(chain)) };
}

function compare(
  task: ReadTask,
  cells: [ReadCell, ReadCell],
  both: (chains: string[]) => Both,
): Omit<Interaction, 'pHolm'> {
  const [one, two] = cells;
  const inTwo = new Set(two.chains.map(({ chain }) => chain));
  const chains = one.chains.map(({ chain }) => chain).filter((chain) => inTwo.has(chain));
  const k = chains.length;
  const { first, second } = k === 0 ? { first: [], second: [] } : both(chains);
  const d = first.map((row, g) => row.map((value, j) => second[g]![j]! - value));
  const testable = d.length >= FEWEST_LISTENERS && k >= 2;
  const table = task === 'rating' ? d.map(nearRanks) : d;
  const statistic = testable ? blockStatistic(table) : null;
  const place = ({ source, context }: ReadCell): Place => ({ source, context });
  return {
    task,
    varies: one.source === two.source ? 'context' : 'source',
    first: place(one),
    second: place(two),
    chains: k,
    listeners: d.length,
    statistic,
    df: statistic === null ? null : k - 1,
    p: statistic === null ? null : blockFormP(statistic, d.length, k),
    shifts:
      d.length === 0
        ? []
        : chains.map((chain, j) => ({
            chain,
            shift: meanOf(d.map((row) => row[j]! - meanOf(row))),
          })),
    ...orderChange(cells, chains),
  };
}

/** Every two places of one task that differ in exactly one of source and context. */
export function readInteractions(
  rows: ReadingRows,
  cells: readonly ReadCell[],
): Read<Interaction[]> {
  const result = READ_TASKS.flatMap((task) => {
    const own = cells.filter((cell) => cell.task === task);
    if (own.length < 2) return [];
    const within =
      <T>(places: readonly (Place & { rows: T[] })[]) =>
      ({ source, context }: ReadCell): T[] =>
        places.find((place) => place.source === source && place.context === context)?.rows ?? [];
    const [pairsIn, ratingsIn] = [within(pairPlaces(rows.pair)), within(ratingPlaces(rows.rating))];
    const compared = own.flatMap((one, i) =>
      own
        .slice(i + 1)
        .flatMap((two) =>
          Number(one.source !== two.source) + Number(one.context !== two.context) !== 1
            ? []
            : compare(task, [one, two], (chains) =>
                task === 'pair'
                  ? bothPaired([pairsIn(one), pairsIn(two)], chains)
                  : bothRated([ratingsIn(one), ratingsIn(two)], chains),
              ),
        ),
    );
    const pHolm = holm(compared.map(({ p }) => p));
    return compared.map((one, i): Interaction => ({ ...one, pHolm: pHolm[i]! }));
  });
  const message = 'between some places too few listeners answered for all chains in both';
  return {
    result,
    warnings: result.some(({ p }) => p === null)
      ? [{ code: 'not-tested', section: 'interactions', message }]
      : [],
  };
}
