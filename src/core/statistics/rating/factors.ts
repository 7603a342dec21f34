import { Matrix } from 'ml-matrix';
import { sortedNames } from '@/core/text/order';
import { type ChainMakes, bothKnown } from '../chains-file';
import { fTail } from '../distributions';
import { rankOf } from '../linear';
import type { Warning } from '../findings';
import { type RatedChain, ratingTable } from './cells';
import { type Group, type MixedFit, fitMixedModel, residualWithin, waldF } from './mixed-model';

export type FactorName = 'microphone' | 'preamp' | 'microphone:preamp';

export interface FactorTest {
  factor: FactorName;
  F: number;
  df1: number;
  df2: number;
  p: number;
  partialEta2: number;
}

/** One term of the model: its columns in the design, and each level's weights on them. */
export interface Term {
  factor: FactorName;
  levels: string[];
  /** First column, and how many. */
  from: number;
  columns: number;
  /** By level: weights on the term's own columns. */
  codes: number[][];
}

export interface FactorDesign {
  terms: Term[];
  /** Constant and the columns of all terms. */
  size: number;
  /** Of each chain, by name. */
  rowOf: Map<string, number[]>;
}

/** Weights of each level that sum to zero: the last level is minus all others. */
function sumToZero(levels: number): number[][] {
  return Array.from({ length: levels }, (_, i) =>
    Array.from({ length: levels - 1 }, (_, j) => (i === levels - 1 ? -1 : i === j ? 1 : 0)),
  );
}

/**
 * Sum-to-zero terms for the microphones and preamps of some chains, and for their interaction where all combinations
 * of levels occur and it is asked for.
 */
export function factorDesign(
  chains: readonly string[],
  made: ChainMakes,
  interaction: boolean,
): FactorDesign {
  const partOf = (chain: string, factor: 'microphone' | 'preamp') =>
    made.get(chain)?.[factor] ?? '';
  const terms: Term[] = [];
  let size = 1;
  for (const factor of ['microphone', 'preamp'] as const) {
    const levels = sortedNames(chains.map((chain) => partOf(chain, factor)));
    if (levels.length < 2) continue;
    const columns = levels.length - 1;
    terms.push({ factor, levels, from: size, columns, codes: sumToZero(levels.length) });
    size += columns;
  }
  const combinations = new Set(
    chains.map((chain) => JSON.stringify([partOf(chain, 'microphone'), partOf(chain, 'preamp')])),
  );
  if (interaction && terms.length === 2) {
    const [m, p] = terms as [Term, Term];
    if (combinations.size === m.levels.length * p.levels.length) {
      const both = m.levels.flatMap((x, i) => p.levels.map((y, j) => ({ name: [x, y], i, j })));
      terms.push({
        factor: 'microphone:preamp',
        levels: both.map(({ name }) => JSON.stringify(name)),
        from: size,
        columns: m.columns * p.columns,
        codes: both.map(({ i, j }) => m.codes[i]!.flatMap((x) => p.codes[j]!.map((y) => x * y))),
      });
      size += m.columns * p.columns;
    }
  }
  const rowOf = new Map(
    chains.map((chain) => {
      const own = [partOf(chain, 'microphone'), partOf(chain, 'preamp')];
      const weights = terms.flatMap(({ factor, levels, codes }) => {
        const level =
          factor === 'microphone' ? own[0]! : factor === 'preamp' ? own[1]! : JSON.stringify(own);
        return codes[levels.indexOf(level)]!;
      });
      return [chain, [1, ...weights]];
    }),
  );
  return { terms, size, rowOf };
}

/** Rows that pick a term's columns out of all. */
export function columnsOf({ from, columns }: Term, size: number): Matrix {
  const pick = Matrix.zeros(columns, size);
  for (let i = 0; i < columns; i++) pick.set(i, from + i, 1);
  return pick;
}

export interface FactorModel {
  design: FactorDesign;
  fit: MixedFit;
  df2: number;
  chains: string[];
  listeners: number;
}

/**
 * The model of parts over rated chains that have both.
 * @returns "aliased" where no part can be told from another, null where too little is left to judge by
 */
export function factorModel(
  ratings: readonly RatedChain[],
  made: ChainMakes,
): FactorModel | 'aliased' | null {
  const known = ratings.filter(({ chain }) => bothKnown(made, chain));
  if (known.length === 0) return 'aliased';
  const { listeners, chains, means } = ratingTable(known);
  const design = factorDesign(chains, made, true);
  const { terms, size, rowOf } = design;
  const rows = chains.map((chain) => rowOf.get(chain) ?? []);
  if (terms.length === 0 || rankOf(new Matrix(rows)) < size) return 'aliased';
  const groups = means.map((row): Group => {
    const own = row.flatMap((value, j) => (value === null ? [] : [{ value, row: rows[j]! }]));
    return { rows: own.map((one) => one.row), values: own.map(({ value }) => value) };
  });
  const cells = groups.reduce((sum, { values }) => sum + values.length, 0);
  const df2 = cells - listeners.length - size + 1;
  if (df2 < 1 || residualWithin(groups, size) < 1e-9) return null;
  const fit = fitMixedModel(groups, size);
  return fit && { design, fit, df2, chains, listeners: listeners.length };
}

/** Wald's F of each term, adjusted for the others. */
export function testsOf({ design, fit, df2 }: FactorModel): FactorTest[] {
  return design.terms.flatMap((term) => {
    const F = waldF(fit, columnsOf(term, design.size));
    if (F === null) return [];
    const df1 = term.columns;
    return {
      factor: term.factor,
      F,
      df1,
      df2,
      p: fTail(F, df1, df2),
      partialEta2: (F * df1) / (F * df1 + df2),
    };
  });
}

/** What microphone and preamp do to the ratings, each adjusted for the other. */
export function factorTests(
  ratings: readonly RatedChain[],
  made: ChainMakes,
): { tests: FactorTest[]; warnings: Warning[] } {
  const warnings: Warning[] = [];
  const missing = sortedNames(ratings.flatMap(({ chain }) => (made.has(chain) ? [] : [chain])));
  if (missing.length > 0) {
    warnings.push({
      code: 'chain-not-in-chains-file',
      section: 'rating',
      message: `not in the file of chains, so left out of the test of parts: ${missing.join(', ')}`,
    });
  }
  const model = factorModel(ratings, made);
  const tests = model && model !== 'aliased' ? testsOf(model) : [];
  if (model === 'aliased') {
    warnings.push({
      code: 'factors-aliased',
      section: 'rating',
      message: 'microphones and preamps of these chains cannot be told apart',
    });
  }
  return { tests, warnings };
}
