import { Random } from '@/core/signal/random';
import { sortedNames } from '@/core/text/order';
import { type BestSet, bestOfPairs, bestOfRatings } from './best';
import { judged, type Observation, ofOneScale } from './observation';
import type { ReadTask } from './reading/shared';
import { panelDraws } from './reading/value';

/** What one part of a sitting says of a panel that would be drawn anew, or were larger. */
export interface Forecast {
  task: ReadTask;
  chains: string[];
  /** Log odds for pairs, points of the line for ratings. */
  strengths: number[];
  /** The same in each panel that was drawn anew from this one: chain by chain. */
  redrawn: number[][];
  /** Chains that may be the best today. */
  now: string[];
  /** What a larger panel might say: which chains may then be the best, and in how many draws. */
  more: {
    /** So many more listeners. */
    listeners: number;
    /** Draws that could be read. */
    draws: number;
    open: { chains: string[]; times: number }[];
  }[];
}

const DRAWS = 300;
const REDRAWN = 1000;
/** Panels that are asked about, listeners more. */
export const MORE_LISTENERS = [6, 12, 24] as const;
const MOST = MORE_LISTENERS[MORE_LISTENERS.length - 1]!;
/** Decimals that are kept of a strength. */
const kept = (strength: number) => Number(strength.toFixed(4));

/** Rows of each listener, and the reading of a panel made of such. */
interface Panel {
  listeners: number;
  /** @param who indices of listeners; whoever stands there twice is two */
  read: (who: readonly number[]) => BestSet | null;
}

function panelOf<Row extends { listener: string }>(
  rows: readonly Row[],
  read: (rows: readonly Row[]) => BestSet | null,
): Panel {
  const own = new Map<string, Row[]>();
  for (const row of rows) {
    const known = own.get(row.listener);
    if (known) known.push(row);
    else own.set(row.listener, [row]);
  }
  const groups = sortedNames([...own.keys()]).map((name) => own.get(name)!);
  return {
    listeners: groups.length,
    read: (who) =>
      read(who.flatMap((i, copy) => groups[i]!.map((row) => ({ ...row, listener: `${copy}` })))),
  };
}

/**
 * A panel and those who come after: each answers like one drawn from an urn into which every draw puts another of its
 * kind.
 * @returns indices of the listeners that were there, first each once
 */
export function fromUrn(listeners: number, more: number, random: Random): number[] {
  const urn = Array.from({ length: listeners }, (_, i) => i);
  while (urn.length < listeners + more) urn.push(urn[random.below(urn.length)]!);
  return urn;
}

/**
 * Which chains may be the best after more listeners, by the panel's own scatter and the sealed way of reading: the
 * Bayesian bootstrap's prediction (Rubin 1981; Lo 1988), in which nothing is taken for known but who was there. Beside
 * it, strengths of whole panels drawn with replacement (Efron & Tibshirani 1993).
 * @param observations of one part
 * @param margins what counts as level, by task; null where the plan has none
 * @param told how far it is, 0 to 1
 * @returns null where the best cannot be said today
 */
export function forecast(
  observations: readonly Observation[],
  margins: Record<ReadTask, number | null>,
  seed: number,
  told: (share: number) => void = () => undefined,
  draws = DRAWS,
): Forecast | null {
  const pair = observations.filter(judged.pair);
  const rating = ofOneScale(observations.filter(judged.rating));
  const task: ReadTask = pair.length > 0 ? 'pair' : 'rating';
  const panel =
    task === 'pair'
      ? panelOf(pair, (rows) => bestOfPairs(rows, margins.pair))
      : panelOf(rating, (rows) => bestOfRatings(rows, margins.rating));
  const whole = panel.read(fromUrn(panel.listeners, 0, new Random(seed)));
  const redraw = whole && panelDraws(task, { pair, rating });
  if (!whole || !redraw) return null;
  const random = Random.derived(seed, 'forecast');
  const counts = MORE_LISTENERS.map(() => new Map<string, { chains: string[]; times: number }>());
  for (let draw = 0; draw < draws; draw++) {
    const urn = fromUrn(panel.listeners, MOST, random);
    MORE_LISTENERS.forEach((listeners, i) => {
      const chains = panel.read(urn.slice(0, panel.listeners + listeners))?.notShownWorse;
      if (!chains) return;
      const key = JSON.stringify(chains);
      const known = counts[i]!.get(key);
      if (known) known.times++;
      else counts[i]!.set(key, { chains, times: 1 });
    });
    told((draw + 1) / draws);
  }
  const panels = Array.from({ length: REDRAWN }, () => redraw.draw(random));
  return {
    task,
    chains: redraw.chains,
    strengths: whole.chains.map(({ strength }) => kept(strength)),
    redrawn: redraw.chains.map((_, i) => panels.map((strengths) => kept(strengths[i]!))),
    now: whole.notShownWorse,
    more: MORE_LISTENERS.map((listeners, i) => {
      const open = [...counts[i]!.values()].sort((x, y) => y.times - x.times);
      const read = open.reduce((sum, { times }) => sum + times, 0);
      return { listeners, draws: read, open };
    }),
  };
}

/**
 * In which share of draws another choice would be made.
 * @param choose what would be taken of chains that may be the best
 * @returns null where nothing could be read
 */
export function changedShare(
  now: readonly string[],
  { draws, open }: Forecast['more'][number],
  choose: (chains: readonly string[]) => string,
): number | null {
  if (draws === 0) return null;
  const today = choose(now);
  const other = open.filter(({ chains }) => choose(chains) !== today);
  return other.reduce((sum, { times }) => sum + times, 0) / draws;
}

/** What panels drawn anew say of a chain among those that are left. */
export interface Scattered {
  chain: string;
  strength: number;
  /** Share of panels in which it leads, equal ones sharing it. */
  bestShare: number;
  /** Mean of what is lost against the strongest of each panel. */
  expectedLoss: number;
}

/** @param left chains to look among; others are passed over */
export function scatterAmong(
  { chains, strengths, redrawn }: Pick<Forecast, 'chains' | 'strengths' | 'redrawn'>,
  left: readonly string[],
): Scattered[] {
  const at = chains.flatMap((chain, i) => (left.includes(chain) ? [i] : []));
  const panels = redrawn[0]?.length ?? 0;
  const sums = at.map(() => ({ best: 0, loss: 0 }));
  for (let panel = 0; panel < panels; panel++) {
    const own = at.map((i) => redrawn[i]![panel]!);
    const greatest = Math.max(...own);
    const best = own.filter((strength) => strength === greatest).length;
    own.forEach((strength, j) => {
      if (strength === greatest) sums[j]!.best += 1 / best;
      sums[j]!.loss += greatest - strength;
    });
  }
  return at.map((i, j) => ({
    chain: chains[i]!,
    strength: strengths[i]!,
    bestShare: sums[j]!.best / panels,
    expectedLoss: sums[j]!.loss / panels,
  }));
}
