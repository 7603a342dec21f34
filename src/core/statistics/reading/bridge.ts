import { Matrix } from 'ml-matrix';
import { sortedNames } from '@/core/text/order';
import { holm, quantile, twoSidedP } from '../distributions';
import { differenceError, rankOf } from '../linear';
import type { Of } from '../observation';
import { pairStrengths, soundFit } from '../pair/analyze';
import { fitByColumns, type WaldF, waldOfColumns } from '../pair/columns';
import { indexJudgements } from '../pair/judgements';
import { deviationOf, meanOf } from '../rating/cells';
import { ratingStrengthsOf } from './cells';
import type { Warning } from '../findings';
import type { Read, ReadingRows } from './reading';

export interface Bridged {
  chain: string;
  difference: number;
  se: number | null;
  ci95: [number, number] | null;
}

/** Chains of several sittings set against the reference that all of them heard. */
export interface Bridge {
  reference: string;
  sittings: string[];
  rating: {
    chains: (Bridged & { listeners: number })[];
    unlinked: string[];
    drift: {
      first: string;
      second: string;
      listeners: number;
      difference: number | null;
      se: number | null;
      p: number | null;
      pHolm: number | null;
    }[];
  } | null;
  pair: { chains: Bridged[]; heterogeneity: WaldF | null } | null;
}

const FEWEST_LISTENERS = 5;
const NOTHING = 1e-12;

/** Means of each listener for each chain in each sitting. */
function ratedIn(rows: readonly Of<'rating'>[]) {
  const all = new Map<string, Map<string, Map<string, number[]>>>();
  for (const { listener, sitting, chain, value } of rows) {
    const own = all.get(listener) ?? new Map<string, Map<string, number[]>>();
    all.set(listener, own);
    const of = own.get(sitting) ?? new Map<string, number[]>();
    own.set(sitting, of);
    of.set(chain, [...(of.get(chain) ?? []), value]);
  }
  return all;
}

/** Chains that were rated against the reference of their sitting, listener by listener. */
export function ratingBridge(
  rows: readonly Of<'rating'>[],
  reference: string,
  warn: (code: string) => void,
): Bridge['rating'] {
  if (rows.length === 0) return null;
  const rated = ratedIn(rows);
  const cells: { listener: string; chain: string; value: number }[] = [];
  for (const [listener, sittings] of rated) {
    const linked = [...sittings.values()].flatMap((own) => {
      const known = own.get(reference);
      return known ? [{ own, known: meanOf(known) }] : [];
    });
    for (const chain of new Set(linked.flatMap(({ own }) => [...own.keys()]))) {
      if (chain === reference) continue;
      const differences = linked.flatMap(({ own, known }) => {
        const values = own.get(chain);
        return values ? [meanOf(values) - known] : [];
      });
      cells.push({ listener, chain, value: meanOf(differences) });
    }
  }
  const { chains } = ratingStrengthsOf(cells);
  const linked = new Set(cells.map(({ chain }) => chain));
  const unlinked = sortedNames(rows.map(({ chain }) => chain)).filter(
    (chain) => chain !== reference && !linked.has(chain),
  );
  if (unlinked.length > 0) warn('not-connected');
  return {
    chains: chains.map(({ chain, strength, se, ci95 }) => ({
      chain,
      listeners: cells.filter((cell) => cell.chain === chain).length,
      difference: strength ?? 0,
      se,
      ci95,
    })),
    unlinked,
    drift: driftOf(rated, reference),
  };
}

/** Whether the reference itself was placed otherwise from one sitting to another. */
function driftOf(rated: ReturnType<typeof ratedIn>, reference: string) {
  const places = [...rated].map(([, sittings]) => {
    const known = [...sittings].flatMap(([sitting, own]) => {
      const values = own.get(reference);
      return values ? [[sitting, meanOf(values)] as const] : [];
    });
    return new Map(known);
  });
  const sittings = sortedNames(places.flatMap((own) => [...own.keys()]));
  const rows = sittings.flatMap((first, i) =>
    sittings.slice(i + 1).map((second) => {
      const differences = places.flatMap((own) => {
        const [x, y] = [own.get(first), own.get(second)];
        return x === undefined || y === undefined ? [] : [y - x];
      });
      const n = differences.length;
      const sd = deviationOf(differences);
      const testable = n >= FEWEST_LISTENERS && sd !== null && sd >= NOTHING;
      const difference = n === 0 ? null : meanOf(differences);
      const se = testable ? sd / Math.sqrt(n) : null;
      const p = se === null || difference === null ? null : twoSidedP(difference / se, n - 1);
      return { first, second, listeners: n, difference, se, p };
    }),
  );
  const pHolm = holm(rows.map(({ p }) => p));
  return rows.map((row, i) => ({ ...row, pHolm: pHolm[i]! }));
}

/** Whether strengths differ from sitting to sitting: columns of strengths for each, beside the common ones. */
function heterogeneityOf(rows: readonly Of<'pair'>[]): WaldF | null {
  // A chain in a sitting is one of its own, so that each has its own weights on the columns.
  const name = (chain: string, sitting: string) => JSON.stringify([chain, sitting]);
  const data = indexJudgements(
    rows.map((row) => ({
      ...row,
      chain: name(row.chain, row.sitting),
      chainB: name(row.chainB, row.sitting),
    })),
  );
  const split = data.chains.map((key) => JSON.parse(key) as [string, string]);
  const chains = sortedNames(split.map(([chain]) => chain));
  const common = split.map(([chain]) => chains.slice(0, -1).map((one) => Number(one === chain)));
  const pairs = data.judgements.map(({ a, b }) => ({ a, b }));
  const rankWith = (codes: number[][]) =>
    rankOf(new Matrix(pairs.map(({ a, b }) => codes[a]!.map((x, i) => x - codes[b]![i]!))));
  // Columns are taken as long as they add to what is there.
  let codes = common;
  let rank = rankWith(codes);
  if (rank < chains.length - 1) return null;
  for (const column of data.chains.keys()) {
    const wider = codes.map((row, i) => [...row, Number(i === column)]);
    const gained = rankWith(wider);
    if (gained > rank) [codes, rank] = [wider, gained];
  }
  const q = rank - (chains.length - 1);
  if (q === 0) return null;
  const fit = fitByColumns(data, codes);
  return fit === null || fit === 'dependent' ? null : waldOfColumns(fit, chains.length - 1, q);
}

/** Chains of pairs against the reference; null where no sound fit links them. */
export function pairsAgainst(rows: readonly Of<'pair'>[], reference: string): Bridged[] | null {
  const fit = soundFit(rows);
  if (!fit) return null;
  const { chains, strengths, covariance: v, df } = fit;
  const r = chains.indexOf(reference);
  if (r < 0) return null;
  const width = quantile(0.975, df);
  return chains.flatMap((chain, i) => {
    if (i === r) return [];
    const difference = strengths[i]! - strengths[r]!;
    const se = differenceError(v, i, r);
    return { chain, difference, se, ci95: [difference - width * se, difference + width * se] };
  });
}

function pairBridge(
  rows: readonly Of<'pair'>[],
  reference: string,
  warn: (code: string) => void,
): Bridge['pair'] {
  if (rows.length === 0) return null;
  const heard = rows.some(({ chain, chainB }) => chain === reference || chainB === reference);
  if (!heard || pairStrengths(rows).codes.includes('disconnected')) {
    warn('not-connected');
    return null;
  }
  const chains = pairsAgainst(rows, reference);
  return chains && { chains, heterogeneity: heterogeneityOf(rows) };
}

const MESSAGES: Record<string, string> = {
  'no-reference': 'there are several sittings, and no reference was planned to set them against',
  'not-connected': 'some chains never met the reference and are left out',
};

/** Null with one sitting, or without a reference among the results. */
export function readBridge(
  { pair, rating }: ReadingRows,
  reference: string | undefined,
): Read<Bridge | null> {
  const sittings = sortedNames([...pair, ...rating].map(({ sitting }) => sitting));
  if (sittings.length < 2) return { result: null, warnings: [] };
  const codes = new Set<string>();
  const warn = (code: string) => codes.add(code);
  let result: Bridge | null = null;
  if (reference === undefined) warn('no-reference');
  else {
    result = {
      reference,
      sittings,
      rating: ratingBridge(rating, reference, warn),
      pair: pairBridge(pair, reference, warn),
    };
  }
  const warnings = [...codes].map((code): Warning => ({
    code,
    section: 'bridge',
    message: MESSAGES[code]!,
  }));
  return { result, warnings };
}
