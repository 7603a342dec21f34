import { ALPHA } from '@/core/statistics/words';
import { detectableGap } from '@/core/design/power';
import type { Random } from '@/core/signal/random';
import type { SimulatedListener } from '@/core/simulation/listeners';
import { blockFormP, blockStatistic } from '@/core/statistics/block-test';
import { midRanks } from '@/core/statistics/ranks';
import type { Power, PowerQuestion } from '../task';
import { times } from './panel';

/** Scatter of one listener's difference between two chains, in points of a line of 100; assumed. */
const LINE_SCATTER = 22;
/** Share of a rating's scatter that repeats of one listener do not take away; assumed. */
const LASTING = 0.5;

/** One half of a listener's scatter on the line stays over the trials, the other comes anew; assumed. */
const PLACE_SPREAD = 11;
/** What a simulated listener makes of a difference in worth, and how their hand scatters. */
const POINTS_PER_LOG_ODDS = 14;
const PLACING_SCATTER = 9;

/** What a difference of places is stated in. */
export const POINTS: Power['stated'] = {
  label: 'ahead by',
  unit: 'of 100 points',
  value: 15,
  least: 1,
  most: 60,
  times: 1,
};

export function buysOfRatings(listeners: number, ratingsEach: number, family: number): string {
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

/** @param rated chains that are placed */
export function ratingsFound(
  { seats, trials, effect }: PowerQuestion,
  rated: number,
  ratingsEach: number,
  random: Random,
): boolean {
  if (ratingsEach < 1 || trials < 1) return false;
  const table = times(seats, () =>
    times(rated, (i) => {
      const own = 50 + (i === 0 ? effect : 0) + PLACE_SPREAD * random.normal();
      const placed = times(ratingsEach, () =>
        Math.min(100, Math.max(0, Math.round(own + PLACE_SPREAD * random.normal()))),
      );
      return placed.reduce((sum, place) => sum + place, 0) / ratingsEach;
    }),
  );
  if (seats < 2 || rated < 2) return false;
  const statistic = blockStatistic(table.map(midRanks));
  return statistic !== null && blockFormP(statistic, seats, rated) < ALPHA;
}

const onScale = (place: number) => Math.min(100, Math.max(0, Math.round(place)));

/** Where a simulated listener puts what is worth so much more than the middle, in log odds. */
export function placeOf({ random }: SimulatedListener, worth: number): number {
  return onScale(50 + POINTS_PER_LOG_ODDS * worth + PLACING_SCATTER * random.normal());
}

/** Places of several beside each other. */
export function placesOf(listener: SimulatedListener, worths: readonly number[]): number[] {
  const centre = worths.reduce((a, b) => a + b, 0) / worths.length;
  return worths.map((one) => placeOf(listener, one - centre));
}
