import { clipsAsked, type Controls, type Task } from './task';

/** A part of a room, where all hear one order. */
export interface AskedInRoom {
  /** Pairs that are asked, and chains that are compared. */
  pairs: number;
  chains: number;
  controls: Controls;
}

/** Never, however many trials. */
export const NEVER = Number.POSITIVE_INFINITY;

/** Slips on one line, without the reference that is named. */
const slipsOf = (task: Task, { chains, controls }: AskedInRoom) =>
  clipsAsked(task, controls, chains) - Number(task.namesReference);

/**
 * Trials after which, in one order that all hear, whoever leans to a place leans to everything alike: the right answer of
 * each pair, or each chain on a line, stood in each place equally often. A multiple of it is as good.
 * @returns null where no place can matter, NEVER where it cannot be evened out
 */
export function evenTrials(task: Task, asked: AskedInRoom): number | null {
  if (task.rightPlaces > 0) return task.rightPlaces * asked.pairs;
  const slips = slipsOf(task, asked);
  if (!task.line || slips < 2) return null;
  const { repeats } = task.offers;
  const twice = repeats?.as === 'slot' && asked.controls.repeats > 0;
  const all = task.clips(asked.chains) === asked.chains;
  return all && !twice ? slips : NEVER;
}

/** A judged trial as it was heard: its chains by slot, and the slot of the right answer. */
export interface HeardInRoom {
  chains: readonly string[];
  right: number | null;
}

/** What stood where, how often: by pair and place of the right answer, or by chain and place on the line. */
function standings(task: Task, trials: readonly HeardInRoom[]): [what: string, place: number][] {
  if (task.rightPlaces > 0) {
    return trials.flatMap(({ chains, right }) => {
      // From memory one clip is heard alone; all trials are of the one pair.
      const pair = chains.length > 1 ? [...new Set(chains)].sort().join() : '';
      return right === null ? [] : [[pair, right]];
    });
  }
  return trials.flatMap(({ chains }) => {
    const placed = chains.slice(Number(task.namesReference));
    return placed.flatMap((chain, place): [string, number][] =>
      placed.indexOf(chain) === place ? [[chain, place]] : [],
    );
  });
}

/** Whether in a room something stood in one place more often than in another, so that no verdict can be given. */
export function unevenlyHeard(task: Task, trials: readonly HeardInRoom[]): boolean {
  const line = task.line !== null;
  const slips =
    Math.max(0, ...trials.map(({ chains }) => chains.length)) - Number(task.namesReference);
  const places = task.rightPlaces > 0 ? task.rightPlaces : line && slips > 1 ? slips : 0;
  if (places === 0) return false;
  const counts = new Map<string, Map<number, number>>();
  for (const [what, place] of standings(task, trials)) {
    const own = counts.get(what) ?? new Map<number, number>();
    counts.set(what, own);
    own.set(place, (own.get(place) ?? 0) + 1);
  }
  return [...counts.values()].some((own) => own.size < places || new Set(own.values()).size > 1);
}
