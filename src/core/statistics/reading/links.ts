import { Matrix } from 'ml-matrix';
import { sortedNames } from '@/core/text/order';
import { type ChainMakes, bothKnown } from '../chains-file';
import { quantile } from '../distributions';
import type { Of } from '../observation';
import { fitByColumns, type WaldF, waldOfColumns } from '../pair/columns';
import { indexJudgements } from '../pair/judgements';
import {
  factorDesign,
  type FactorDesign,
  factorModel,
  type FactorName,
  type FactorTest,
  type Term,
  testsOf,
} from '../rating/factors';
import type { Warning } from '../findings';
import type { Read, ReadingAsked, ReadingRows } from './reading';

export interface Effect {
  factor: 'microphone' | 'preamp';
  level: string;
  effect: number;
  se: number;
  ci95: [number, number];
}

/** What microphone and preamp do, each adjusted for the other. */
export interface Links {
  rating: { factors: (FactorTest & { share: number | null })[]; effects: Effect[] } | null;
  pair: {
    listeners: number;
    factors: (WaldF & { factor: FactorName; share: number | null })[];
    effects: Effect[];
    /** Whether parts work otherwise together than each alone. */
    lackOfFit: WaldF | null;
  } | null;
}

const FEWEST_LISTENERS = 5;

interface Estimates {
  beta: readonly number[];
  covariance: Matrix;
  df: number;
}

/** Effect of each level of a term, with its standard error. */
function levelsOf(term: Term, { beta, covariance }: Estimates, from: number) {
  return term.levels.map((level, i) => {
    const code = term.codes[i]!;
    const own = Matrix.rowVector(code);
    const block = covariance.subMatrix(
      from,
      from + term.columns - 1,
      from,
      from + term.columns - 1,
    );
    const effect = code.reduce((sum, x, j) => sum + x * beta[from + j]!, 0);
    const variance = own.mmul(block).mmul(own.transpose()).get(0, 0);
    return { level, effect, se: Math.sqrt(Math.max(0, variance)) };
  });
}

function effectsOf(design: FactorDesign, of: Estimates, offset: number): Effect[] {
  const width = quantile(0.975, of.df);
  return design.terms.flatMap((term) => {
    const { factor } = term;
    if (factor === 'microphone:preamp') return [];
    return levelsOf(term, of, term.from - offset).map(({ level, effect, se }): Effect => ({
      factor,
      level,
      effect,
      se,
      ci95: [effect - width * se, effect + width * se],
    }));
  });
}

/** Share of each term in what the parts explain (Hays 1963): mean of effect² − se² over the chains. */
function sharesOf(
  design: FactorDesign,
  of: Estimates,
  offset: number,
  chains: readonly string[],
): (number | null)[] {
  const sizes = design.terms.map((term) => {
    const levels = levelsOf(term, of, term.from - offset);
    const sum = chains.reduce((total, chain) => {
      const { effect, se } = levels[levelOf(term, design, chain)]!;
      return total + effect * effect - se * se;
    }, 0);
    return Math.max(0, sum / chains.length);
  });
  const all = sizes.reduce((sum, size) => sum + size, 0);
  return sizes.map((size) => (all === 0 ? null : size / all));
}

/** Index of a chain's level (or combination), by its weights on the term's columns. */
function levelOf(term: Term, { rowOf }: FactorDesign, chain: string): number {
  const own = (rowOf.get(chain) ?? []).slice(term.from, term.from + term.columns);
  return term.codes.findIndex((code) => code.every((x, i) => x === own[i]));
}

function ratingLinks(
  rows: readonly Of<'rating'>[],
  made: ChainMakes,
  warn: (code: string) => void,
): Links['rating'] {
  if (rows.length === 0) return null;
  const model = factorModel(rows, made);
  if (model === 'aliased') warn('factors-aliased');
  const tests = model && model !== 'aliased' ? testsOf(model) : [];
  if (!model || model === 'aliased' || tests.length === 0) return null;
  const { design, fit, df2, chains } = model;
  const of = { beta: fit.beta, covariance: fit.covariance, df: df2 };
  const shares = sharesOf(design, of, 0, chains);
  return {
    factors: tests.map((test) => {
      const at = design.terms.findIndex(({ factor }) => factor === test.factor);
      return { ...test, share: shares[at]! };
    }),
    effects: effectsOf(design, of, 0),
  };
}

/** Columns without the constant, which cancels out of every pair. */
const columnsFor = (design: FactorDesign, chains: readonly string[]) =>
  chains.map((chain) => (design.rowOf.get(chain) ?? []).slice(1));

function pairLinks(
  rows: readonly Of<'pair'>[],
  made: ChainMakes,
  warn: (code: string) => void,
): Links['pair'] {
  const known = (chain: string) => bothKnown(made, chain);
  const own = rows.filter(({ chain, chainB }) => known(chain) && known(chainB));
  if (own.length === 0) return null;
  const data = indexJudgements(own);
  const { chains, listeners } = data;
  if (listeners.length < FEWEST_LISTENERS) {
    warn('few-listeners');
    return null;
  }
  const design = factorDesign(chains, made, false);
  const fit =
    design.terms.length === 0 ? 'dependent' : fitByColumns(data, columnsFor(design, chains));
  if (fit === 'dependent' || fit === null) {
    warn(fit === 'dependent' ? 'factors-aliased' : 'separation');
    return null;
  }
  const of = { beta: fit.beta, covariance: fit.covariance, df: listeners.length - 1 };
  const shares = sharesOf(design, of, 1, chains);
  const whole = factorDesign(chains, made, true);
  const crossed = whole.terms.find(({ factor }) => factor === 'microphone:preamp');
  const fuller = crossed ? fitByColumns(data, columnsFor(whole, chains)) : null;
  return {
    listeners: listeners.length,
    factors: design.terms.map((term, i) => ({
      factor: term.factor,
      ...waldOfColumns(fit, term.from - 1, term.columns),
      share: shares[i]!,
    })),
    effects: effectsOf(design, of, 1),
    lackOfFit:
      crossed && fuller && fuller !== 'dependent'
        ? waldOfColumns(fuller, crossed.from - 1, crossed.columns)
        : null,
  };
}

const MESSAGES: Record<string, string> = {
  'factors-aliased': 'microphones and preamps of these chains cannot be told apart',
  separation: 'some microphone or preamp always won, so the sizes of their effects are not known',
  'few-listeners': 'fewer than five listeners answered pairs of chains whose parts are known',
  'chain-not-in-chains-file': 'some chains are not in the file of chains and are left out',
  'part-missing':
    'some chains lack a microphone or a preamp in the file of chains and are left out',
};

/** Both null without a file of chains. */
export function readLinks({ pair, rating }: ReadingRows, { chains }: ReadingAsked): Read<Links> {
  if (!chains) return { result: { rating: null, pair: null }, warnings: [] };
  const { made } = chains;
  const codes = new Set<string>();
  const names = sortedNames([
    ...rating.map(({ chain }) => chain),
    ...pair.flatMap(({ chain, chainB }) => [chain, chainB]),
  ]);
  for (const name of names) {
    if (!made.has(name)) codes.add('chain-not-in-chains-file');
    else if (!bothKnown(made, name)) codes.add('part-missing');
  }
  const warn = (code: string) => codes.add(code);
  const ofRating = ratingLinks(rating, made, warn);
  const ofPair = pairLinks(pair, made, warn);
  const warnings = [...codes].map((code): Warning => ({
    code,
    section: 'links',
    message: MESSAGES[code]!,
  }));
  return { result: { rating: ofRating, pair: ofPair }, warnings };
}
