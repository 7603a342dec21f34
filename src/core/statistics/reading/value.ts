import { Random } from '@/core/signal/random';
import { sortedNames } from '@/core/text/order';
import type { Best, BestSet } from '../best';
import { indexJudgements } from '../pair/judgements';
import { cellsOf, orderEstimable, refitter } from '../pair/model';
import { chainModel, groupsOf } from '../rating/analyze';
import { ratingTable } from '../rating/cells';
import { solveMixedModel } from '../rating/mixed-model';
import type { Warning } from '../findings';
import { EQUAL, onFrontier } from '../frontier';
import type { Read, ReadingAsked, ReadingRows } from './reading';
import type { ReadTask } from './shared';

/** What a chain gives for its price, and how sure that is; shares describe this panel. */
export interface ValuedChain {
  chain: string;
  price: number;
  strength: number;
  /** No other is at most as dear and at least as strong. */
  onFrontier: boolean;
  bestShare: number;
  frontierShare: number;
  /** Mean of what is lost against the strongest listed. */
  expectedLoss: number;
  /** Price over that of the cheapest not shown worse. */
  priceRatio: number | null;
}

export interface Value {
  task: ReadTask;
  draws: number;
  chains: ValuedChain[];
  cheapestNotShownWorse: string | null;
}

const DRAWS = 2000;

/** Strengths of all chains of a task in one draw of whole listeners; null where a chain is left without cells. */
type Draw = (random: Random) => number[] | null;

/** Draws whole listeners of a task with replacement; null where its strengths have no model. */
export function panelDraws(
  task: ReadTask,
  { pair, rating }: Pick<ReadingRows, 'pair' | 'rating'>,
): { chains: string[]; draw: (random: Random) => number[] } | null {
  const drawing = task === 'rating' ? ratingDraws(rating) : pairDraws(pair);
  if (!drawing) return null;
  return {
    chains: drawing.chains,
    draw(random) {
      for (;;) {
        const strengths = drawing.draw(random);
        if (strengths) return strengths;
      }
    },
  };
}

function pairDraws(rows: ReadingRows['pair']): { chains: string[]; draw: Draw } {
  const data = indexJudgements(rows);
  const k = data.chains.length;
  const withOrder = orderEstimable(cellsOf(data, false).get(0) ?? [], k);
  const refit = refitter(data, { chains: k, withOrder });
  const level = new Array<number>(k).fill(0);
  return { chains: data.chains, draw: (random) => refit(random) ?? level };
}

function ratingDraws(rows: ReadingRows['rating']): { chains: string[]; draw: Draw } | null {
  const table = ratingTable(rows);
  const model = chainModel(table);
  if (!model) return null;
  const ratio = model.fit.varListener / model.fit.varResidual;
  const groups = groupsOf(table);
  const k = table.chains.length;
  return {
    chains: table.chains,
    draw: (random) =>
      solveMixedModel(
        groups.map(() => groups[random.below(groups.length)]!),
        k,
        ratio,
      ),
  };
}

interface Listed {
  chain: string;
  price: number;
  /** Index among the strengths of its task. */
  at: number;
}

const frontier = (listed: readonly Listed[], strengths: readonly number[]) =>
  onFrontier(listed.map(({ price, at }) => ({ price, strength: strengths[at]! })));

function resampled(listed: readonly Listed[], draw: (random: Random) => number[], seed: number) {
  const random = Random.derived(seed, 'value');
  const sums = listed.map(() => ({ best: 0, frontier: 0, loss: 0 }));
  for (let i = 0; i < DRAWS; i++) {
    const drawn = draw(random);
    const own = listed.map(({ at }) => drawn[at]!);
    const greatest = Math.max(...own);
    const best = own.filter((strength) => strength >= greatest - EQUAL).length;
    const efficient = frontier(listed, drawn);
    sums.forEach((sum, j) => {
      if (own[j]! >= greatest - EQUAL) sum.best += 1 / best;
      if (efficient[j]) sum.frontier++;
      sum.loss += greatest - own[j]!;
    });
  }
  return sums.map((sum) => ({
    bestShare: Math.min(1, sum.best / DRAWS),
    frontierShare: sum.frontier / DRAWS,
    expectedLoss: sum.loss / DRAWS,
  }));
}

function cheapest(listed: readonly Listed[], { notShownWorse }: BestSet, strengths: number[]) {
  const open = listed.filter(({ chain }) => notShownWorse.includes(chain));
  const [first] = open.sort((x, y) => x.price - y.price || strengths[y.at]! - strengths[x.at]!);
  return first ?? null;
}

/** The task that prices are set against: ratings if the best can be said of them, else pairs. */
export function valueTask(best: Best): ReadTask | null {
  return best.rating ? 'rating' : best.pair ? 'pair' : null;
}

const MESSAGES: Record<string, string> = {
  'no-price': 'some chains have no price and are left out',
  'not-defined': 'value needs strengths of at least two chains that have a price',
};

/** Null without prices, or without rows of pairs or ratings. */
export function readValue(
  { pair, rating }: ReadingRows,
  best: Best,
  { chains, seed }: ReadingAsked,
): Read<Value | null> {
  if (!chains?.priced || pair.length + rating.length === 0) return { result: null, warnings: [] };
  const task = valueTask(best);
  const set = task && best[task];
  const codes = new Set<string>();
  const ofTask = set
    ? set.chains.map(({ chain }) => chain)
    : sortedNames([
        ...rating.map(({ chain }) => chain),
        ...pair.flatMap(({ chain, chainB }) => [chain, chainB]),
      ]);
  const listed = ofTask.flatMap((chain, at): Listed[] => {
    const price = chains.made.get(chain)?.price ?? null;
    if (price === null) codes.add('no-price');
    return price === null ? [] : [{ chain, price, at }];
  });
  const drawing = task && panelDraws(task, { pair, rating });
  let result: Value | null = null;
  if (!task || !set || !drawing || listed.length < 2) codes.add('not-defined');
  else {
    const strengths = set.chains.map(({ strength }) => strength);
    const efficient = frontier(listed, strengths);
    const shares = resampled(listed, drawing.draw, seed);
    const least = cheapest([...listed], set, strengths);
    result = {
      task,
      draws: DRAWS,
      chains: listed.map(({ chain, price, at }, i) => ({
        chain,
        price,
        strength: strengths[at]!,
        onFrontier: efficient[i]!,
        ...shares[i]!,
        priceRatio: least && least.price !== 0 ? price / least.price : null,
      })),
      cheapestNotShownWorse: least?.chain ?? null,
    };
  }
  const warnings = [...codes].map((code): Warning => ({
    code,
    section: 'value',
    message: MESSAGES[code]!,
  }));
  return { result, warnings };
}
