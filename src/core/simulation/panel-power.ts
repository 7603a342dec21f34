import { allPairs } from '@/core/design/orders';
import { rounds } from '@/core/design/rounds';
import type { Random } from '@/core/signal/random';
import { blockFormP, blockStatistic } from '@/core/statistics/block-test';
import { exactUpperTail } from '@/core/statistics/distributions';
import { indexJudgements, type PairJudgement } from '@/core/statistics/pair/judgements';
import { panelTest } from '@/core/statistics/pair/tests';
import { type ForcedTask, GUESS, rightShare } from '@/core/statistics/psychometric';
import { midRanks } from '@/core/statistics/ranks';
import type { TaskId } from '@/core/tasks/task';

/** A part of a plan, and how large the difference is in truth. */
export interface PowerQuestion {
  task: TaskId;
  /** Chains that are compared. */
  chains: number;
  seats: number;
  trials: number;
  tiesAllowed: boolean;
  /**
   * Pairs: how often the one leading chain is preferred to any other, 0.5 … 1. Right answers: d′ of one pair.
   * Lines: points by which the leading chain stands above the others.
   */
  effect: number;
}

const ALPHA = 0.05;
/** How much listeners differ from each other; assumed, as docs/methods.md says. */
const TASTE_SPREAD = 0.5;
const HEARING_SPREAD = 0.4;
/** One half of a listener's scatter on the line stays over the trials, the other comes anew. */
const PLACE_SPREAD = 11;
const TIE_WEIGHT = Math.exp(-1.2);

const times = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));

function pairsFound({ chains, seats, trials, tiesAllowed, effect }: PowerQuestion, random: Random) {
  const lead = Math.log(effect / (1 - effect));
  const stream = rounds(allPairs(chains), random);
  const rows = times(seats, (seat): PairJudgement[] => {
    const worth = times(chains, (i) => (i === 0 ? lead : 0) + TASTE_SPREAD * random.normal());
    return times(trials, () => {
      const [a, b] = stream.next().value;
      const half = (worth[a] - worth[b]) / 2;
      const [x, y] = [Math.exp(half), Math.exp(-half)];
      const at = random.uniform() * (x + y + (tiesAllowed ? TIE_WEIGHT : 0));
      const response = at < x ? 'a' : at < x + y ? 'b' : 'tie';
      return { listener: `${seat}`, chain: `${a}`, chainB: `${b}`, first: '', response };
    });
  }).flat();
  const test = panelTest(indexJudgements(rows));
  return test !== null && test.p < ALPHA;
}

function ratingsFound(
  { seats, trials, effect }: PowerQuestion,
  rated: number,
  ratingsEach: number,
  random: Random,
): boolean {
  if (ratingsEach < 1 || trials < 1) return false;
  const table = times(seats, () =>
    times(rated, (i) => {
      const own = 50 + (i === 0 ? effect : 0) + PLACE_SPREAD * random.normal();
      const placed = times(ratingsEach, () =>
        Math.min(100, Math.max(0, Math.round(own + PLACE_SPREAD * random.normal()))),
      );
      return placed.reduce((sum, place) => sum + place, 0) / ratingsEach;
    }),
  );
  if (seats < 2 || rated < 2) return false;
  const statistic = blockStatistic(table.map(midRanks));
  return statistic !== null && blockFormP(statistic, seats, rated) < ALPHA;
}

function rightFound(
  { seats, trials, effect }: PowerQuestion,
  task: ForcedTask,
  pairs: number,
  random: Random,
): boolean {
  // Trials of the one pair that differs, shared out over the listeners.
  const n = Math.floor((seats * trials) / pairs);
  const shares = times(seats, () =>
    rightShare(task, effect * Math.exp(HEARING_SPREAD * random.normal())),
  );
  const right = times(n, (i) => random.uniform() < shares[i % seats]).filter(Boolean).length;
  return exactUpperTail(right, n, GUESS[task]) < ALPHA / pairs;
}

/** Whether one simulated panel finds the difference, by the test that is sealed with the plan. */
function found(question: PowerQuestion, random: Random): boolean {
  const { task, chains, trials } = question;
  const pairs = allPairs(chains).length;
  switch (task) {
    case 'pair':
      return pairsFound(question, random);
    case 'duo-trio':
    case 'triangle':
    case 'two-interval':
      return rightFound(question, task, pairs, random);
    case 'memory':
      return rightFound(question, 'two-interval', 1, random);
    case 'line':
      return ratingsFound(question, chains, trials, random);
    case 'reference':
      return ratingsFound(question, chains - 1, Math.floor(trials / (chains - 1)), random);
    case 'words':
      return false;
  }
}

/**
 * Power by simulation: panels of listeners who differ from each other answer the part, and each is read
 * by the product's own analysis.
 * @param runs simulated panels
 * @param onProgress told now and then, 0 … 1
 * @returns share of the panels that find the difference; null for words, which have no single one
 */
export function simulatedPower(
  question: PowerQuestion,
  runs: number,
  random: Random,
  onProgress: (share: number) => void = () => undefined,
): number | null {
  if (question.task === 'words') return null;
  let hits = 0;
  for (let run = 0; run < runs; run++) {
    if (found(question, random)) hits++;
    if (run % 20 === 19) onProgress((run + 1) / runs);
  }
  return hits / runs;
}
