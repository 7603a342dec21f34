import type { Random } from '@/core/signal/random';
import type { Character, SimulatedListener } from '@/core/simulation/listeners';
import type { RatedWords } from '@/core/statistics/findings';
import type { Heard, TrialRole } from '@/core/statistics/observation';
import type { SectionId } from '@/core/statistics/results';

/** One clip of a trial: a chain by its index, and what is added to its matched level. */
export interface Slot {
  chain: number;
  gainDb: number;
}

/**
 * What a trial is there for. "self": a clip against itself; "louder": against itself 1 dB louder, the level catch;
 * "repeat": asked before; "learning": nothing is judged yet.
 */
export type TrialKind = TrialRole | 'learning';

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
  levelCatch: boolean;
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
  /** Whether all hear one order, in a room: what each would get over many orders is evened out within it. */
  together?: boolean;
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

/** A judged trial with its answer, as it may have been; chains in the order of the slots. */
export interface RestoredTrial {
  chains: string[];
  right: number | null;
  answer: Answer;
}

/** What may be asked beside the judged trials: in a trial of its own, or as one clip more in each. */
export interface Offer {
  label: string;
  as: 'trial' | 'slot';
}
export type Offers = Partial<Record<keyof Controls, Offer>>;

/** What a part's minutes are counted from. */
export interface Planned {
  seats: number;
  /** Judged trials of each listener. */
  trials: number;
  controls: Controls;
  /** Chains that are compared. */
  among: number;
}

/** A part of a plan, and how large the difference is in truth. */
export interface PowerQuestion {
  /** Chains of the part, the reference among them. */
  chains: number;
  seats: number;
  /** Whether all hear one order. */
  together: boolean;
  trials: number;
  tiesAllowed: boolean;
  controls: Controls;
  words: readonly string[];
  effect: number;
}

/** How one simulated listener answers a trial. */
export type Answering = (trial: TrialDesign) => Answer;

/**
 * What a difference is stated in, and what listeners answer where it is true: of the first chain against all others, or
 * of the first two. The last chain is the reference.
 */
export interface Power {
  /** The effect is the stated value times `times`. */
  stated: {
    label: string;
    unit: string;
    value: number;
    least: number;
    most: number;
    times: number;
  };
  /** What a finding has to name. */
  names: (question: PowerQuestion) => string;
  /** One more listener of a panel, who differs from the others. */
  listener: (question: PowerQuestion, random: Random) => Answering;
}

/** What a simulated listener is told of a trial. */
export interface Simulated {
  trial: TrialDesign;
  /** Of the trial's slots; where two are learned by heart, of these. */
  characters: readonly Character[];
  tiesAllowed: boolean;
  words: readonly string[];
  /** Of all chains, which words are measured against. */
  mean: Character;
}

/** Ends of a line, and how a finding says that one stands at the upper. */
export interface Line {
  ends: readonly [lower: string, upper: string];
  said: RatedWords;
}

/**
 * One listening task, whole: what is asked, what counts as an answer, in which orders, what an answer says, what it
 * costs and can find. Each lies in a folder of its own and is listed once, in the registry.
 */
export interface Task {
  readonly name: string;
  /** What a trial shows, in a sentence. */
  readonly shows: string;
  /** What it can prove and what not, in a sentence. */
  readonly proves: string;
  /** The question that listeners read unless the plan has another. */
  readonly prompt: string;
  /** Whether two chains must be named. */
  readonly ofOnePair: boolean;
  /** How two chains are named where a part is of these alone; null where it cannot be. */
  readonly pairLabels: readonly [string, string] | null;
  /** Whether the same code word all through would give an answer away, or which clip is the reference. */
  readonly freshWordsOnly: boolean;
  /** Whether the first clip is named as the one to compare with. */
  readonly namesReference: boolean;
  /** Whether two clips are learned by heart before the first judged trial. */
  readonly learns: boolean;
  /** Whether "no preference" may be offered. */
  readonly tiesOffered: boolean;
  /** Whether the next trial may follow from the answers before. */
  readonly adaptable: boolean;
  /** Whether words are ticked. */
  readonly asksWords: boolean;
  /** Whether there is a right answer, so that it may be asked before any liking. */
  readonly asksFirst: boolean;
  /** Whether it asks what is liked, so that its strengths are likings. */
  readonly asksLiking: boolean;
  /** In how many places the right answer may stand; 0 where none is right. */
  readonly rightPlaces: number;
  readonly offers: Offers;
  /** Trials and words as they are proposed. */
  readonly proposes: (set: { chains: number; stereo: boolean }) => {
    trials: number;
    words: string[];
  };
  /** Clips in one judged trial, without what controls add. */
  readonly clips: (chains: number) => number;
  /** Clips of the trial that is practised. */
  readonly practiceClips: number;
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
  /** Where places on a line are given; else null. */
  readonly line: Line | null;
  /** What an answer says, once the key is open; controls included, learning not. */
  readonly observe: (answer: Answer, trial: OpenedTrial) => Heard[];
  /**
   * The trial and the answer behind what another program says was judged in one trial, such that `observe` says the
   * same of them; null where that cannot be known. Left out by tasks that no file of results tells enough of.
   */
  readonly restore?: (said: readonly Heard[]) => RestoredTrial | null;
  /** What its answers can tell, in a sentence. */
  readonly buys: (plan: Planned) => string;
  /** Null where no single difference can be stated. */
  readonly power: Power | null;
  /** An answer of a simulated listener, made up for demonstration and practice. */
  readonly simulate: (listener: SimulatedListener, asked: Simulated) => Answer;
}

/** What most tasks are not. */
export const PLAIN = {
  ofOnePair: false,
  pairLabels: ['Only this chain', 'and this'],
  freshWordsOnly: false,
  namesReference: false,
  learns: false,
  tiesOffered: false,
  adaptable: false,
  asksWords: false,
  asksFirst: false,
  asksLiking: false,
  rightPlaces: 0,
  offers: {},
  line: null,
} as const;

/** Trials of one listener with controls and learning, as the orders make them. */
export function trialsAsked(
  task: Task,
  { trials, controls }: Pick<Planned, 'trials' | 'controls'>,
): number {
  const { self, levelCatch, repeats } = task.offers;
  const one = (offer: Offer | undefined, on: boolean) => (offer?.as === 'trial' && on ? 1 : 0);
  const again = repeats?.as === 'trial' ? Math.min(controls.repeats, trials) : 0;
  return (
    trials +
    one(self, controls.self) +
    one(levelCatch, controls.levelCatch) +
    again +
    Number(task.learns)
  );
}

/** Clips of one trial, with those that controls add. */
export function clipsAsked(task: Task, controls: Controls, chains: number): number {
  const { self, repeats } = task.offers;
  const more =
    Number(self?.as === 'slot' && controls.self) +
    Number(repeats?.as === 'slot' && controls.repeats > 0);
  return task.clips(chains) + more;
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
