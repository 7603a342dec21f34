import type { Random } from '@/core/signal/random';
import type { Heard, Role } from '@/core/statistics/observation';
import type { SectionId } from '@/core/statistics/results';

export type TaskId =
  'pair' | 'line' | 'reference' | 'duo-trio' | 'triangle' | 'two-interval' | 'memory' | 'words';

/** One clip of a trial: a chain by its index, and what is added to its matched level. */
export interface Slot {
  chain: number;
  gainDb: number;
}

/**
 * What a trial is there for. "self": a clip against itself; "louder": against itself 1 dB louder;
 * "repeat": asked before; "learning": nothing is judged yet.
 */
export type TrialKind = Role | 'learning';

export interface TrialDesign {
  kind: TrialKind;
  slots: readonly Slot[];
  /** Index of the right answer; null where taste is asked. */
  right: number | null;
}

export interface Controls {
  /** A clip against itself: who prefers a place in the order. */
  self: boolean;
  /** The same clip 1 dB louder: who follows loudness. */
  louder: boolean;
  /** Trials asked twice, per listener: who is consistent. */
  repeats: number;
}

export interface OrderPlan {
  chains: number;
  seats: number;
  /** Judged trials per listener; controls come on top. */
  trialsPerSeat: number;
  /** The only two chains that are compared; null: all. */
  pair: readonly [number, number] | null;
  /** Index of the reference chain. */
  reference: number;
  controls: Controls;
  random: Random;
}

export type Answer =
  | { choice: 'first' | 'second' | 'tie' }
  /** One place per slot, 0 (worse) to 100 (better). */
  | { places: readonly number[] }
  /** The slot, or for tasks from memory the learned clip, that was meant. */
  | { slot: number }
  | { words: readonly string[] }
  | { learned: true };

/** What an answer is checked against. */
export interface AskedTrial {
  kind: TrialKind;
  slots: number;
  tiesAllowed: boolean;
  words: readonly string[];
}

/** A trial with its chains; only once the key is open. */
export interface OpenedTrial {
  kind: TrialKind;
  /** Chain of each slot. */
  chains: readonly string[];
  right: number | null;
  /** The two learned chains of a task from memory, in the order of its answers. */
  learned: readonly string[];
  /** What was added to each slot's level, dB. */
  gainsDb: readonly number[];
}

export interface Task {
  readonly id: TaskId;
  readonly name: string;
  /** What a trial shows, in a sentence. */
  readonly shows: string;
  /** What it can prove and what not, in a sentence. */
  readonly proves: string;
  /** The question that listeners read unless the plan has another. */
  readonly prompt: string;
  /** Whether two chains must be named. */
  readonly ofOnePair: boolean;
  /** Whether the same code word all through would give an answer away, or which clip is the reference. */
  readonly freshWordsOnly: boolean;
  /** Clips in one judged trial. */
  readonly clips: (chains: number) => number;
  /** Judged trials that let one listener meet everything once. */
  readonly round: (chains: number) => number;
  /** Trials of every seat, in order. @throws RangeError for a plan that cannot be ordered */
  readonly orders: (plan: OrderPlan) => TrialDesign[][];
  /** Honest seconds of one trial. */
  readonly seconds: (clipSeconds: number, clips: number) => number;
  /** Why an answer cannot be taken, as a sentence; null when it can. */
  readonly refusal: (answer: Answer, trial: AskedTrial) => string | null;
  /** The section that gives the part its finding. */
  readonly section: SectionId;
  /** What an answer says, once the key is open; controls included, learning not. */
  readonly observe: (answer: Answer, trial: OpenedTrial) => Heard[];
}

export const plain = (chain: number): Slot => ({ chain, gainDb: 0 });
export const LOUDER_DB = 1;

const DECIDING_S = 6;
/** Each clip is heard about this often before an answer. */
const HEARINGS = 1.6;

export function trialSeconds(clipSeconds: number, clips: number): number {
  return clips * HEARINGS * clipSeconds + DECIDING_S;
}

export const WRONG_SHAPE = 'This answer does not belong to this kind of trial; reload the page.';
