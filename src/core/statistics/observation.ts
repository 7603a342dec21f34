import type { ForcedTask } from './psychometric';

/**
 * What a trial was there for. Only what was judged enters a test: "self" is a clip against itself, "louder" against
 * itself 1 dB louder, "repeat" what was asked before.
 */
export type TrialRole = 'judged' | 'self' | 'louder' | 'repeat';

/**
 * What an answer stands for. "told": given when names of its part had been told to somebody; "sighted": with the names
 * in view. Neither enters a test.
 */
export type Role = TrialRole | 'told' | 'sighted';

/** Who heard what, when; ids inside the bank, names in a results file. */
export interface Circumstances {
  listener: string;
  source: string;
  /** '' in results files of others. */
  passage: string;
  context: string;
  /** '' while there is but one. */
  sitting: string;
  part: string;
  trial: string;
  /** Counts from 1 how often the listener was asked the same in this place. */
  replicate: number;
}

/** One of two was chosen, or neither. */
export interface PairChoice {
  kind: 'pair';
  chain: string;
  chainB: string;
  /** '' when unknown. */
  first: 'a' | 'b' | '';
  response: 'a' | 'b' | 'tie';
  /** Which of the two was made louder, for a control. */
  louder: 'a' | 'b' | '';
}

/** A place on a line, 0 … 100. */
export interface Rating {
  kind: 'rating';
  chain: string;
  value: number;
  /** The chain it was placed against, '' without one. */
  against: string;
  /** What the line runs between; '' from worse to better. Places on unlike lines are never read together. */
  scale: string;
}

/** Right or wrong, where two can be told apart at all. */
export interface ForcedChoice {
  kind: 'forced';
  task: ForcedTask;
  chain: string;
  chainB: string;
  correct: boolean;
}

/** Right or wrong, one clip alone and two learned by heart. */
export interface Recall {
  kind: 'recall';
  chain: string;
  chainB: string;
  correct: boolean;
}

/** The words that fit. */
export interface Ticks {
  kind: 'ticks';
  chain: string;
  words: readonly string[];
}

/** What an answer says, once the key is open. */
export type Heard = (PairChoice | Rating | ForcedChoice | Recall | Ticks) & { role: Role };
export type Observation = Circumstances & Heard;
export type Of<Kind extends Heard['kind']> = Extract<Observation, { kind: Kind }>;

const judgedOf =
  <Kind extends Heard['kind']>(kind: Kind) =>
  (one: Observation): one is Of<Kind> =>
    one.kind === kind && one.role === 'judged';

/** Whether an observation is of a kind and was judged, so that it may enter a test. */
export const judged = {
  pair: judgedOf('pair'),
  rating: judgedOf('rating'),
  forced: judgedOf('forced'),
  recall: judgedOf('recall'),
  ticks: judgedOf('ticks'),
};

/** Places on one kind of line: from worse to better if there are any, else the one there is. */
export function ofOneScale<T extends Rating>(ratings: readonly T[]): T[] {
  const scales = new Set(ratings.map(({ scale }) => scale));
  const [first] = scales.has('') ? [''] : scales;
  return ratings.filter(({ scale }) => scale === first);
}

/** Of each listener what they said, in the order given. */
export function byListener<T extends Pick<Circumstances, 'listener'>>(
  observations: readonly T[],
): Map<string, T[]> {
  const of = new Map<string, T[]>();
  for (const one of observations) {
    const own = of.get(one.listener);
    if (own) own.push(one);
    else of.set(one.listener, [one]);
  }
  return of;
}

/**
 * Numbers what one listener was asked more than once about the same chains in the same place (source, context), in
 * the order given.
 */
export function withReplicates<T extends Omit<Circumstances, 'replicate'> & Heard>(
  observations: readonly T[],
): (T & { replicate: number })[] {
  const times = new Map<string, number>();
  return observations.map((one) => {
    const { listener, source, context, kind, chain } = one;
    const other = 'chainB' in one ? one.chainB : '';
    const task = one.kind === 'forced' ? one.task : kind;
    const cell = JSON.stringify([listener, source, context, task, chain, other]);
    const replicate = (times.get(cell) ?? 0) + 1;
    times.set(cell, replicate);
    return { ...one, replicate };
  });
}
