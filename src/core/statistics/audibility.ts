import { clopperPearson, exactUpperTail, holm } from './distributions';
import type { Of } from './observation';
import { type Findings, plainly } from './findings';
import { ALPHA } from './words';
import { sortedNames } from '@/core/text/order';
import { dPrimeOf, type ForcedTask, GUESS } from './psychometric';
import { type Claim, claimText, holds } from './claims';

type ForcedAnswer = Pick<Of<'forced'>, 'listener' | 'task' | 'chain' | 'chainB' | 'correct'>;

export interface Sensitivity {
  n: number;
  correct: number;
  guess: number;
  proportion: number;
  /** Exact test against guessing; valid over repeated trials, as its hypothesis is that nobody hears anything. */
  pOneSided: number;
  ci95: [number, number];
  dPrime: number;
  /** All were right; d′ stands for half an error less. */
  clipped: boolean;
  /** An upper limit of null is unbounded. */
  dPrimeCi95: [number | null, number | null];
}

export interface Audibility extends Sensitivity {
  a: string;
  b: string;
  task: ForcedTask;
  pHolm: number;
  byListener: (Sensitivity & { listener: string })[];
}

function sensitivity(task: ForcedTask, answers: readonly ForcedAnswer[]): Sensitivity {
  const n = answers.length;
  const correct = answers.filter((answer) => answer.correct).length;
  const guess = GUESS[task];
  const clipped = correct === n;
  const ci95 = clopperPearson(correct, n);
  return {
    n,
    correct,
    guess,
    proportion: correct / n,
    pOneSided: exactUpperTail(correct, n, guess),
    ci95,
    dPrime: dPrimeOf(task, clipped ? (n - 0.5) / n : correct / n) ?? 0,
    clipped,
    dPrimeCi95: [dPrimeOf(task, ci95[0]), dPrimeOf(task, ci95[1])],
  };
}

/** Answers by pair of chains and task, names in the order of code points. */
export function byPair(answers: readonly ForcedAnswer[]) {
  const groups = new Map<string, ForcedAnswer[]>();
  for (const answer of answers) {
    const [a, b] = sortedNames([answer.chain, answer.chainB]);
    const key = JSON.stringify([a, b, answer.task]);
    const group = groups.get(key);
    if (group) group.push(answer);
    else groups.set(key, [answer]);
  }
  return sortedNames(groups.keys()).map((key) => {
    const [a, b, task] = JSON.parse(key) as [string, string, ForcedTask];
    return { a, b, task, own: groups.get(key) ?? [] };
  });
}

/** The tests alone: every pair against guessing, Holm. */
export function distinguishablePairs(
  answers: readonly ForcedAnswer[],
): Pick<Audibility, 'a' | 'b' | 'pHolm'>[] {
  const entries = byPair(answers);
  const ps = entries.map(({ task, own }) =>
    exactUpperTail(own.filter(({ correct }) => correct).length, own.length, GUESS[task]),
  );
  const adjusted = holm(ps);
  return entries.map(({ a, b }, i) => ({ a, b, pHolm: adjusted[i] ?? 1 }));
}

/** Can they be told apart: one entry per pair of chains and task, names in the order of code points. */
export function analyzeAudibility(answers: readonly ForcedAnswer[]): Audibility[] {
  const entries = byPair(answers).map(({ a, b, task, own }) => ({
    a,
    b,
    task,
    ...sensitivity(task, own),
    byListener: sortedNames(own.map(({ listener }) => listener)).map((listener) => ({
      listener,
      ...sensitivity(
        task,
        own.filter((answer) => answer.listener === listener),
      ),
    })),
  }));
  const adjusted = holm(entries.map(({ pOneSided }) => pOneSided));
  return entries.map((entry, i) => ({ ...entry, pHolm: adjusted[i] ?? 1 }));
}

export function audibilityFindings(rows: readonly Audibility[], claim: Claim): Findings | null {
  if (rows.length === 0) return null;
  const told = holds(claim) ? rows.filter(({ pHolm }) => pHolm < ALPHA) : [];
  if (rows.length > 1) {
    return plainly(
      told.length === 0
        ? `None of ${rows.length} pairs was shown to be told apart.`
        : `${told.length} of ${rows.length} pairs can be told apart.`,
    );
  }
  const { a, b, task, correct, n } = rows[0]!;
  const figures = `${correct} of ${n} right, ${claimText(claim)}`;
  if (task === 'two-interval') {
    return plainly(
      told.length === 1
        ? `The one expected to have more was found to have it (${figures}).`
        : `It was not shown that the one expected to have more has it (${figures}).`,
    );
  }
  return plainly(
    told.length === 1
      ? `${a} and ${b} can be told apart (${figures}).`
      : `It was not shown that ${a} and ${b} can be told apart (${figures}).`,
  );
}
