import { allPairs } from '@/core/design/orders';
import {
  detectableDPrime,
  detectableGap,
  detectableShare,
  judgementsNeeded,
  trialsNeeded,
} from '@/core/design/power';
import { listenerMinutes, PART_S } from '@/core/design/time-budget';
import { rightShare } from '@/core/statistics/psychometric';
import { TASKS } from '@/core/tasks';
import type { PartAccount, PartDraft, SittingAccount, SittingDraft } from './schema';

/** What a part's clips are, as far as the account needs it. */
export interface ClipFacts {
  chains: number;
  clipSeconds: number;
}

/** Scatter of one listener's difference between two chains, in points of a line of 100; assumed. */
const LINE_SCATTER = 22;
/** Share of a rating's scatter that repeats of one listener do not take away; assumed. */
const LASTING = 0.5;

/** Descriptions of each that tell 2 of 10 from 7 of 10: the sign test on those who tick for one only. */
const ONE_ONLY = 0.7 * 0.8 + 0.3 * 0.2;
const WORD_NEEDS = Math.ceil(judgementsNeeded((0.7 * 0.8) / ONE_ONLY) / ONE_ONLY);

type Counted = Pick<PartDraft, 'task' | 'trials' | 'pair' | 'controls'>;

/** Trials of one listener with controls and learning, as the orders will make them. */
export function trialsOfPart({ task, trials, controls }: Counted): number {
  const extra = (control: boolean) => (control ? 1 : 0);
  switch (task) {
    case 'pair':
      return (
        trials + extra(controls.self) + extra(controls.louder) + Math.min(controls.repeats, trials)
      );
    case 'reference':
      return trials + extra(controls.self) + Math.min(controls.repeats, trials);
    case 'memory':
      return trials + 1;
    default:
      return trials;
  }
}

/** Clips of one trial, the hidden repeat of a line included. */
export function clipsShown({ task, controls }: Counted, chains: number): number {
  return TASKS[task].clips(chains) + (task === 'line' && controls.repeats > 0 ? 1 : 0);
}

const each = (pairs: number) => (pairs === 1 ? 'the pair' : `each of ${pairs} pairs`);

function buysOfPairs(judgements: number, pairs: number): string {
  const per = Math.floor(judgements);
  if (per === 0) {
    return `Fewer than one judgement for ${each(pairs)}: this can tell nothing of single pairs.`;
  }
  const needed = judgementsNeeded(0.7, pairs);
  const found = detectableShare(per, pairs);
  if (found === null) {
    return `About ${per} judgement${per === 1 ? '' : 's'} for ${each(pairs)}: even if all agreed, no single pair could be told from chance. ${needed} would tell a 70 : 30 preference.`;
  }
  const share = Math.round(100 * found);
  return `About ${per} judgements for ${each(pairs)} tell a ${share} : ${100 - share} preference, 8 times in 10; slighter ones stay open. A 70 : 30 preference needs ${needed}.`;
}

function buysOfForced(
  task: 'duo-trio' | 'triangle' | 'two-interval',
  trials: number,
  pairs: number,
): string {
  const per = Math.floor(trials);
  if (per === 0) return `Fewer than one trial for ${each(pairs)}: this can tell nothing.`;
  const found = detectableDPrime(task, per, pairs);
  const needed = trialsNeeded(task, 1, pairs);
  if (found === null) {
    return `About ${per} trial${per === 1 ? '' : 's'} for ${each(pairs)}: even if none were wrong, guessing could not be ruled out. A slight difference (d′ 1) needs ${needed}.`;
  }
  const share = Math.round(100 * rightShare(task, found));
  return `About ${per} trials for ${each(pairs)} find a difference that is heard right in ${share} of 100 (d′ ${found.toFixed(1)}), 8 times in 10. A slight one (d′ 1) needs ${needed}.`;
}

function buysOfRatings(listeners: number, ratingsEach: number, family: number): string {
  if (ratingsEach < 1) {
    return 'Fewer than one rating of each recording by each listener: give more trials, or fewer recordings.';
  }
  const scatter = LINE_SCATTER * Math.sqrt(LASTING + (1 - LASTING) / Math.floor(ratingsEach));
  const gap = detectableGap(listeners, scatter, family);
  if (gap === null || gap > 60) {
    return `${listeners} listener${listeners === 1 ? '' : 's'} rate each recording: too few to tell any two apart.`;
  }
  return `${listeners} listeners tell two recordings apart that lie ${Math.ceil(gap)} of 100 points from each other, 8 times in 10, if a listener’s differences scatter by about ${LINE_SCATTER} points.`;
}

function buysOf(part: Counted, seats: number, chains: number): string {
  const { task, trials, pair } = part;
  const among = pair ? 2 : chains;
  const pairs = allPairs(among).length;
  switch (task) {
    case 'pair':
      return buysOfPairs(
        (seats * (trials + Math.min(part.controls.repeats, trials))) / pairs,
        pairs,
      );
    case 'duo-trio':
    case 'triangle':
    case 'two-interval':
      return buysOfForced(task, (seats * trials) / pairs, pairs);
    case 'memory': {
      const needed = judgementsNeeded(0.7);
      return `${seats * trials} answers from memory; ${needed} tell a difference that 70 of 100 remember, 8 times in 10.`;
    }
    case 'line':
      return buysOfRatings(seats, (trials * TASKS.line.clips(among)) / among, pairs);
    case 'reference':
      return buysOfRatings(seats, trials / Math.max(1, among - 1), Math.max(1, among - 1));
    case 'words': {
      const per = (seats * trials) / among;
      return `Each recording is described ${per.toFixed(0)} times; a word that 2 of 10 tick for one and 7 of 10 for another shows with about ${WORD_NEEDS}, 8 times in 10, if it is the only word.`;
    }
  }
}

/** Minutes and certainty of a plan. */
export function accountOf(
  plan: Pick<SittingDraft, 'seats'> & { parts: readonly Counted[] },
  /** Of each part, in order. */
  clips: readonly ClipFacts[],
): SittingAccount {
  const seconds = plan.parts.map((part, i) => {
    const { chains, clipSeconds } = clips[i];
    const shown = clipsShown(part, part.pair ? 2 : chains);
    return trialsOfPart(part) * TASKS[part.task].seconds(clipSeconds, shown);
  });
  const parts = plan.parts.map((part, i): PartAccount => ({
    trials: trialsOfPart(part),
    minutesEach: (seconds[i] + PART_S) / 60,
    buys: buysOf(part, plan.seats, clips[i].chains),
  }));
  const minutesEach = listenerMinutes(seconds);
  return {
    parts,
    settlingMinutes: minutesEach - parts.reduce((sum, part) => sum + part.minutesEach, 0),
    minutesEach,
    minutesInAll: minutesEach * plan.seats,
  };
}
