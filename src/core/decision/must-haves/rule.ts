import type { ChainFacts } from '../facts';

/** Unknown is never failed. */
export type Verdict = 'pass' | 'fail' | 'unknown';

/** A verdict and what it rests on, in words. */
export interface Judged {
  verdict: Verdict;
  ground: string;
}

/** A must-have that is decided by what is known of a chain. */
export interface MustHaveRule {
  id: string;
  label: string;
  /** What the limit is of; null where none is asked. */
  limit: { unit: string; least: number; most: number } | null;
  judge(facts: ChainFacts, limit: number, money: (cents: number) => string): Judged;
}
