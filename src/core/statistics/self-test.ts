import { sortedNames } from '@/core/text/order';
import { byPair } from './audibility';
import { exactUpperTail, holm } from './distributions';
import type { Observation, Of } from './observation';
import { type ForcedTask, GUESS } from './psychometric';
import { ALPHA, list, percent, pText } from './words';

/** How often one person was right about a pair, over all their tests. */
export interface OwnAudibility {
  a: string;
  b: string;
  task: ForcedTask;
  correct: number;
  n: number;
  /** What guessing gives, as a share. */
  guess: number;
  /** Exact and one-sided, over trials; corrected for the other pairs by Holm. */
  pHolm: number;
}

/** What one person chose between two, over all their tests. */
export interface OwnPreference {
  a: string;
  b: string;
  tookA: number;
  tookB: number;
  ties: number;
  /** Chance that two of the answers are alike; null of fewer than two. */
  agreement: number | null;
}

/** How often one person was right about any of several pairs. */
export interface OwnOverall {
  task: ForcedTask;
  pairs: number;
  correct: number;
  n: number;
  guess: number;
  /** Exact and one-sided, over trials: that all of them were guessed. */
  p: number;
}

/** What one person's blind tests came to, and nothing about anybody else. */
export interface OwnReading {
  /** One entry per task that was asked of more than one pair. */
  overall: OwnOverall[];
  /** One entry per pair of chains and task, exact over trials. */
  apart: OwnAudibility[];
  preferences: OwnPreference[];
}

/** Judged answers alone count; those of several tests add up. */
export function readOwn(observations: readonly Observation[]): OwnReading {
  const judged = observations.filter(({ role }) => role === 'judged');
  const pairs = new Map<string, { a: string; b: string; counts: [number, number, number] }>();
  for (const said of judged) {
    if (said.kind !== 'pair') continue;
    const [a, b] = sortedNames([said.chain, said.chainB]) as [string, string];
    const key = JSON.stringify([a, b]);
    const entry = pairs.get(key) ?? { a, b, counts: [0, 0, 0] };
    pairs.set(key, entry);
    const chosen = said.response === 'a' ? said.chain : said.chainB;
    entry.counts[said.response === 'tie' ? 2 : chosen === a ? 0 : 1]++;
  }
  const apart = apartOf(judged.flatMap((said) => (said.kind === 'forced' ? [said] : [])));
  return {
    overall: overallOf(apart),
    apart,
    preferences: [...pairs.values()].map(({ a, b, counts }) => {
      const n = counts[0] + counts[1] + counts[2];
      const alike = counts.reduce((sum, count) => sum + count * (count - 1), 0);
      const [tookA, tookB, ties] = counts;
      return { a, b, tookA, tookB, ties, agreement: n < 2 ? null : alike / (n * (n - 1)) };
    }),
  };
}

function apartOf(answers: readonly Of<'forced'>[]): OwnAudibility[] {
  const rows = byPair(answers).map(({ a, b, task, own }) => {
    const correct = own.filter((answer) => answer.correct).length;
    return { a, b, task, correct, n: own.length, guess: GUESS[task] };
  });
  const adjusted = holm(rows.map(({ correct, n, guess }) => exactUpperTail(correct, n, guess)));
  return rows.map((row, i) => ({ ...row, pHolm: adjusted[i] ?? 1 }));
}

function overallOf(apart: readonly OwnAudibility[]): OwnOverall[] {
  return [...new Set(apart.map(({ task }) => task))].flatMap((task) => {
    const of = apart.filter((one) => one.task === task);
    if (of.length < 2) return [];
    const correct = of.reduce((sum, one) => sum + one.correct, 0);
    const n = of.reduce((sum, one) => sum + one.n, 0);
    const guess = GUESS[task];
    return [{ task, pairs: of.length, correct, n, guess, p: exactUpperTail(correct, n, guess) }];
  });
}

/** The fewest right answers of n that are shown not to be guessed; null where even n are not. */
export function fewestRight(n: number, guess: number): number | null {
  for (let right = 0; right <= n; right++) {
    if (exactUpperTail(right, n, guess) < ALPHA) return right;
  }
  return null;
}

function apartText({ a, b, correct, n, guess, pHolm }: OwnAudibility, among: number): string {
  const figures = `${correct} of ${n} right, where guessing gives ${(n * guess).toFixed(0)}`;
  const corrected = among > 1 ? `, corrected for ${among} pairs` : '';
  if (pHolm < ALPHA)
    return `You told ${a} and ${b} apart: ${figures} (${pText(pHolm)}${corrected}).`;
  const needed = among === 1 ? fewestRight(n, guess) : null;
  const would = needed === null ? '' : `; ${needed} would have shown it`;
  return `It was not shown that you can tell ${a} and ${b} apart: ${figures} (${pText(pHolm)}${corrected})${would}.`;
}

function likedText({ a, b, tookA, tookB, ties, agreement }: OwnPreference, told: boolean): string {
  const parts = [
    `${tookA} for ${a}`,
    `${tookB} for ${b}`,
    ...(ties > 0 ? [`${ties} for neither`] : []),
  ];
  const counts = `Of your ${tookA + tookB + ties} choices ${list(parts)}`;
  if (!told)
    return `${counts}; between two that you were not shown to tell apart this says little.`;
  return agreement === null
    ? `${counts}.`
    : `${counts}; any two of these answers are alike in ${percent(agreement)} of cases.`;
}

function overallText({ pairs, correct, n, guess, p }: OwnOverall): string {
  const figures = `${correct} of ${n} right over ${pairs} pairs, where guessing gives ${(n * guess).toFixed(0)} (${pText(p)})`;
  return p < ALPHA
    ? `You told some of them apart: ${figures}.`
    : `It was not shown that you can tell any of them apart: ${figures}.`;
}

/** As many pairs are told one by one; of more, those that were told apart. */
const PAIRS_NAMED = 3;

/** The reading in sentences, which claim nothing about other listeners. */
export function ownFindings(
  { overall, apart, preferences }: OwnReading,
  nameOf: (id: string) => string,
): string[] {
  const named = <T extends { a: string; b: string }>(one: T): T => ({
    ...one,
    a: nameOf(one.a),
    b: nameOf(one.b),
  });
  const isTold = ({ a, b }: { a: string; b: string }) =>
    apart.some((one) => one.a === a && one.b === b && one.pHolm < ALPHA);
  const few = apart.length <= PAIRS_NAMED;
  const shown = apart.filter((one) => few || isTold(one));
  const liked = preferences.filter((one) => few || isTold(one));
  const left = apart.length - shown.length;
  return [
    ...overall.map(overallText),
    ...shown.map((one) => apartText(named(one), apart.length)),
    ...(left === 0
      ? []
      : [
          `None of the ${left === apart.length ? '' : 'other '}${left} pairs was shown by itself; what you chose between such two says little.`,
        ]),
    ...liked.map((one) => likedText(named(one), isTold(one))),
  ];
}
