import { blockStatistic } from './block-test';
import { chiSquareTail, holm } from './distributions';
import { sortedNames } from './pair/judgements';

export interface TickedWords {
  listener: string;
  chain: string;
  /** As they stand in the file, separated by semicolons. */
  response: string;
}

export interface WordCounts {
  word: string;
  /** Listeners who have answered for all chains. */
  listeners: number;
  cochranQ: number | null;
  df: number;
  p: number | null;
  pHolm: number | null;
  /** Rows that tick the word, per chain. */
  counts: Record<string, number>;
}

function wordsOf(response: string): Set<string> {
  const clean = response
    .split(';')
    .map((word) =>
      word
        .replace(/[ \t]+/g, ' ')
        .trim()
        .toLowerCase(),
    )
    .filter((word) => word !== '');
  return new Set(clean);
}

/** Which words go with which chain; per word the block test on each listener's share of rows that tick it. */
export function analyzeAttributes(rows: readonly TickedWords[]): WordCounts[] {
  const ticked = rows.map((row) => ({ ...row, words: wordsOf(row.response) }));
  const chains = sortedNames(rows.map(({ chain }) => chain));
  const listeners = sortedNames(rows.map(({ listener }) => listener));
  const cells = new Map<string, typeof ticked>();
  const cell = (listener: string, chain: string) => JSON.stringify([listener, chain]);
  for (const row of ticked) {
    const key = cell(row.listener, row.chain);
    cells.set(key, [...(cells.get(key) ?? []), row]);
  }
  const complete = listeners.filter((listener) =>
    chains.every((chain) => cells.has(cell(listener, chain))),
  );
  const words = sortedNames(ticked.flatMap((row) => [...row.words]));
  const entries = words.map((word) => {
    const table = complete.map((listener) =>
      chains.map((chain) => {
        const own = cells.get(cell(listener, chain)) ?? [];
        return own.filter((row) => row.words.has(word)).length / own.length;
      }),
    );
    const testable = complete.length >= 2 && chains.length >= 2;
    const cochranQ = testable ? blockStatistic(table) : null;
    const df = chains.length - 1;
    const counts = Object.fromEntries(
      chains.map((chain) => [
        chain,
        ticked.filter((row) => row.chain === chain && row.words.has(word)).length,
      ]),
    );
    const p = cochranQ === null ? null : chiSquareTail(cochranQ, df);
    return { word, listeners: complete.length, cochranQ, df, p, counts };
  });
  const adjusted = holm(entries.map(({ p }) => p));
  return entries.map((entry, i) => ({ ...entry, pHolm: adjusted[i] }));
}
