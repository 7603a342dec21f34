import type { SimulatedListener } from '@/core/simulation/listeners';
import type { Power, Slot, TrialDesign } from '../task';
import { listenersOf, times } from './panel';

/** One half of a listener's scatter on the line stays over the trials, the other comes anew; assumed. */
const PLACE_SPREAD = 11;
/** What a simulated listener makes of a difference in worth, and how their hand scatters. */
const POINTS_PER_LOG_ODDS = 14;
const PLACING_SCATTER = 9;

/** What a difference of places is stated in. */
const POINTS: Power['stated'] = {
  label: 'ahead by',
  unit: 'of 100 points',
  value: 15,
  least: 1,
  most: 60,
  times: 1,
};

export function buysOfRatings(listeners: number, ratingsEach: number): string {
  if (ratingsEach < 1) {
    return 'Fewer than one rating of each recording by each listener: give more trials, or fewer recordings.';
  }
  const often = Math.floor(ratingsEach);
  return `Each recording is rated ${often === 1 ? 'once' : `${often} times`} by ${listenersOf(listeners)}.`;
}

/**
 * Whether the first chain is found ahead of the others.
 * @param placed slots of a trial that get a place
 */
export function placesPower(placed: (trial: TrialDesign) => readonly Slot[]): Power {
  return {
    stated: POINTS,
    names: () => '0',
    listener({ chains, effect }, random) {
      const own = times(
        chains,
        (i) => 50 + (i === 0 ? effect : 0) + PLACE_SPREAD * random.normal(),
      );
      return (trial) => ({
        places: placed(trial).map(({ chain }) =>
          onScale(own[chain]! + PLACE_SPREAD * random.normal()),
        ),
      });
    },
  };
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
