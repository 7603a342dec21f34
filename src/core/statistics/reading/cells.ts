import { sortedNames } from '@/core/text/order';
import { quantile } from '../distributions';
import type { Of } from '../observation';
import { once } from '../once';
import { pairStrengths } from '../pair/analyze';
import { chainModel } from '../rating/analyze';
import { meanOf, type RatedChain, ratingTable } from '../rating/cells';
import type { Read, ReadingRows } from './reading';
import { READ_TASKS, type ReadTask, topOf } from './shared';

export interface CellStrength {
  chain: string;
  strength: number | null;
  se: number | null;
  ci95: [number, number] | null;
}

/** One place (source and context) under one task, read alone. */
export interface ReadCell {
  source: string;
  context: string;
  task: ReadTask;
  listeners: number;
  rows: number;
  method: 'ml' | 'penalised' | 'none' | 'reml' | 'means';
  chains: CellStrength[];
  top: string[];
}

const FEW_LISTENERS = 5;

/** Rows of one place, in the order of places. */
function placesOf<T extends { source: string; context: string }>(
  rows: readonly T[],
): { source: string; context: string; rows: T[] }[] {
  const places = new Map<string, Map<string, T[]>>();
  for (const row of rows) {
    const of = places.get(row.source) ?? new Map<string, T[]>();
    places.set(row.source, of);
    const own = of.get(row.context);
    if (own) own.push(row);
    else of.set(row.context, [row]);
  }
  return sortedNames(places.keys()).flatMap((source) => {
    const of = places.get(source) ?? new Map<string, T[]>();
    return sortedNames(of.keys()).map((context) => ({
      source,
      context,
      rows: of.get(context) ?? [],
    }));
  });
}

/** Where pairs were chosen from, and where chains were placed on lines. */
export const pairPlaces = once((rows: ReadingRows['pair']) => placesOf(rows));
export const ratingPlaces = once((rows: ReadingRows['rating']) => placesOf(rows));

/** Strengths of ratings by the mixed model, or plain means where it cannot be made. */
export function ratingStrengthsOf(rows: readonly RatedChain[]): {
  method: 'reml' | 'means';
  chains: CellStrength[];
  listeners: number;
} {
  const table = ratingTable(rows);
  const model = chainModel(table);
  const listeners = table.listeners.length;
  const width = quantile(0.975, Math.max(1, listeners - 1));
  const chains = table.chains.map((chain, j): CellStrength => {
    if (!model) {
      const own = table.means.flatMap((row) => row[j] ?? []);
      return { chain, strength: meanOf(own), se: null, ci95: null };
    }
    const [strength, se] = [model.fit.beta[j]!, Math.sqrt(model.fit.covariance.get(j, j))];
    return { chain, strength, se, ci95: [strength - width * se, strength + width * se] };
  });
  return { method: model ? 'reml' : 'means', chains, listeners };
}

function pairCell(rows: readonly Of<'pair'>[]) {
  const { chains, ...rest } = pairStrengths(rows);
  return {
    ...rest,
    chains: chains.map(({ chain, logStrength, se, ci95 }): CellStrength => ({
      chain,
      strength: logStrength,
      se,
      ci95,
    })),
  };
}

const MESSAGES: Record<string, string> = {
  'few-listeners': 'in some place fewer than five listeners answered; conclusions need more',
  separation: 'in some place a chain or order always won: strengths are held back by a prior',
  disconnected: 'in some place the chains fall into groups never compared',
  'all-ties': 'in some place every pair answer is a tie',
};

/** Every place under every task, read alone. */
export function readCells({ pair, rating }: ReadingRows): Read<ReadCell[]> {
  const codes = new Set<string>();
  const pairs = pairPlaces(pair).map(({ source, context, rows }): ReadCell => {
    const { codes: own, ...read } = pairCell(rows);
    for (const code of own) codes.add(code);
    return { source, context, task: 'pair', rows: rows.length, ...read, top: topOf(read.chains) };
  });
  const ratings = ratingPlaces(rating).map(({ source, context, rows }): ReadCell => {
    const read = ratingStrengthsOf(rows);
    if (read.listeners < FEW_LISTENERS) codes.add('few-listeners');
    return { source, context, task: 'rating', rows: rows.length, ...read, top: topOf(read.chains) };
  });
  const result = placesOf([...pairs, ...ratings]).flatMap(({ rows }) =>
    READ_TASKS.flatMap((task) => rows.filter((cell) => cell.task === task)),
  );
  return {
    result,
    warnings: [...codes].map((code) => ({ code, section: 'cells', message: MESSAGES[code]! })),
  };
}
