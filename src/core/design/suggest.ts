import { allPairs } from './orders';
import { judgementsNeeded, trialsNeeded } from './power';
import { PART_S, PAUSE_EVERY_S, PAUSE_S, SETTLING_S } from './time-budget';

/** What a plan is worked out from. */
export interface Situation {
  chains: number;
  listeners: number;
  /** What each of them gives, settling in included. */
  minutesEach: number;
  /** Whether two of the chains may sound alike, by their spectra. */
  inDoubt: boolean;
  /** Seconds of one trial of each task that may be suggested. */
  seconds: Record<'triangle' | 'pair' | 'line' | 'words', number>;
  /** Trials that controls add to a part of each task. */
  controls: Record<keyof Situation['seconds'], number>;
}

export interface SuggestedPart {
  task: keyof Situation['seconds'];
  /** Judged ones; controls come on top. */
  trials: number;
}

/** Worth finding first: what a careful listener hears in most trials. */
const DOUBT_D_PRIME = 1.5;
/** Telling apart is a question before the question: it may not take most of the time. */
const DOUBT_SHARE = 0.4;
const WORTH_FINDING = 0.7;
const MOST_TRIALS = 60;
/** More lines than this tire, and tell little more. */
const MOST_LINES = 3;
/** Fewer are not worth explaining another task. */
const LEAST_PAIRS = 4;

/**
 * Parts for a panel and its time. First, where two chains may sound alike, whether they can be told apart;
 * then pairs, if the panel can bear as many as a 70 : 30 preference needs, else all on one line and pairs in
 * what is left; then words, if there is time for each recording once.
 * @returns nothing when the time is too short for any part
 */
export function suggestParts(situation: Situation): SuggestedPart[] {
  const { chains, listeners, minutesEach, inDoubt, seconds, controls } = situation;
  const whole = 60 * minutesEach - SETTLING_S;
  let left = whole - PAUSE_S * Math.max(0, Math.floor(whole / PAUSE_EVERY_S));
  const parts: SuggestedPart[] = [];
  const affordable = (task: SuggestedPart['task'], budget = left) =>
    Math.max(0, Math.floor((Math.min(budget, left) - PART_S) / seconds[task]) - controls[task]);
  const add = (task: SuggestedPart['task'], trials: number) => {
    if (trials < 1) return;
    parts.push({ task, trials });
    left -= PART_S + (trials + controls[task]) * seconds[task];
  };
  if (inDoubt) {
    const needed = Math.ceil(trialsNeeded('triangle', DOUBT_D_PRIME) / listeners);
    add('triangle', Math.min(needed, affordable('triangle', DOUBT_SHARE * left)));
  }
  const pairs = allPairs(chains).length;
  const needed = Math.ceil((pairs * judgementsNeeded(WORTH_FINDING, pairs)) / listeners);
  const canPay = needed <= Math.min(MOST_TRIALS, affordable('pair'));
  if (chains === 2 || canPay) {
    add('pair', Math.min(canPay ? needed : affordable('pair'), MOST_TRIALS));
  } else {
    add('line', Math.min(MOST_LINES, affordable('line')));
    // What is left beside the words goes to pairs: too few for each, but the order of all gains by them.
    const besideWords = left - PART_S - chains * seconds.words;
    const extra = Math.min(MOST_TRIALS, affordable('pair', besideWords));
    if (extra >= LEAST_PAIRS) add('pair', extra);
  }
  if (affordable('words') >= chains) add('words', chains);
  return parts;
}
