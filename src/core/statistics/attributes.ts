import { blockStatistic } from './block-test';
import { chiSquareTail, holm } from './distributions';
import type { Of } from './observation';
import { type Computed, type Findings, plainly } from './findings';
import { ALPHA } from './words';
import { sortedNames } from '@/core/text/order';
import { type Claim, holds } from './claims';

type TickedWords = Pick<Of<'ticks'>, 'listener' | 'chain' | 'words'>;

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

/** Trimmed, inner spaces collapsed, lower case, each once. */
function wordsOf(ticked: readonly string[]): Set<string> {
  const clean = ticked
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
export function analyzeAttributes(rows: readonly TickedWords[]): Computed<WordCounts[]> {
  const ticked = rows.map((row) => ({ ...row, words: wordsOf(row.words) }));
  const chains = sortedNames(rows.map(({ chain }) => chain));
  const listeners = sortedNames(rows.map(({ listener }) => listener));
  const cells = new Map<string, typeof ticked>();
  const cell = (listener: string, chain: string) => JSON.stringify([listener, chain]);
  for (const row of ticked) {
    const key = cell(row.listener, row.chain);
    const own = cells.get(key);
    if (own) own.push(row);
    else cells.set(key, [row]);
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
  const message = 'who has not described every chain is left out of the tests of words';
  return {
    result: entries.map((entry, i) => ({ ...entry, pHolm: adjusted[i]! })),
    warnings:
      complete.length < listeners.length
        ? [{ code: 'incomplete-listeners', section: 'attributes', message }]
        : [],
  };
}

const MOST_NAMED = 4;

export function attributeFindings(words: readonly WordCounts[], claim: Claim): Findings | null {
  if (words.length === 0) return null;
  const told = holds(claim) ? words.filter(({ pHolm }) => pHolm !== null && pHolm < ALPHA) : [];
  if (told.length === 0) {
    return plainly('No word was shown to belong to one chain more than to another.');
  }
  const texts = told.slice(0, MOST_NAMED).map(({ word, counts }) => {
    const [chain, count] = Object.entries(counts).sort((x, y) => y[1] - x[1])[0]!;
    const all = Object.values(counts).reduce((sum, n) => sum + n, 0);
    return `“${word}” differs between the chains; most ticks for ${chain} (${count} of ${all})`;
  });
  return plainly(`${texts.join('; ')}.`);
}
