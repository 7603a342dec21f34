import { type Axis, foldsOf, weibull } from './axis';

const { exp, log, max } = Math;

/** One of three is meant. */
export const CHANCE = 1 / 3;
/** Places at which a difference may be played, 0 the hardest and 1 the easiest. */
const PLACES = 41;
/** Thresholds that are thought possible: somewhat beyond both ends, all as likely. */
const BEYOND = 0.25;
const THRESHOLDS = 61;
/** How steeply being right grows with the size, as the exponent of a Weibull function; all as likely. */
const SLOPES = [1, 1.6, 2.5, 4] as const;
/** Answers given by mistake, as a share of trials. */
const LAPSES = [0.01, 0.05] as const;
/** Places of the first differences. */
const EASY = [1, 0.9] as const;

/** An answer to a difference at a place of the axis. */
export interface Given {
  place: number;
  right: boolean;
}

/** The size that is heard in three of four trials, as places on the axis. */
export interface Estimate {
  /** Mean of what is thought possible. */
  place: number;
  /** Where 95 % of it lies. */
  from: number;
  to: number;
}

/** Chances of every hypothesis at one place: of a right answer, and the logarithms of both. */
interface Chances {
  right: Float64Array;
  logRight: Float64Array;
  logWrong: Float64Array;
}

const spread = (count: number, from: number, to: number) =>
  Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));

const places = spread(PLACES, 0, 1);
const thresholds = spread(THRESHOLDS, -BEYOND, 1 + BEYOND);
/** Hypotheses of one threshold stand side by side. */
const PER_THRESHOLD = SLOPES.length * LAPSES.length;

/** Chance that an answer is right; the threshold lies where it is 1/3 + (1 − 1/e)·2/3, close to three of four. */
export function chanceOfRight(
  folds: number,
  place: number,
  threshold: number,
  slope: number,
  lapse: number,
): number {
  return CHANCE + (1 - CHANCE - lapse) * weibull(folds, place, threshold, slope);
}

function chancesAt(folds: number, place: number): Chances {
  const right = new Float64Array(THRESHOLDS * PER_THRESHOLD);
  let at = 0;
  for (const threshold of thresholds) {
    for (const slope of SLOPES) {
      for (const lapse of LAPSES)
        right[at++] = chanceOfRight(folds, place, threshold, slope, lapse);
    }
  }
  return { right, logRight: right.map(log), logWrong: right.map((p) => log(1 - p)) };
}

/** Of each axis that was asked for, at all places. */
const known = new Map<number, readonly Chances[]>();

function chancesOf(axis: Axis): readonly Chances[] {
  const folds = foldsOf(axis);
  const made = known.get(folds) ?? places.map((place) => chancesAt(folds, place));
  known.set(folds, made);
  return made;
}

/** What is thought of each hypothesis after these answers; sums to one. */
function posterior(axis: Axis, given: readonly Given[]): Float64Array {
  const all = chancesOf(axis);
  const logs = new Float64Array(THRESHOLDS * PER_THRESHOLD);
  for (const { place, right } of given) {
    const near = places.findIndex((one) => Math.abs(one - place) < 1e-9);
    const own = all[near] ?? chancesAt(foldsOf(axis), place);
    const said = right ? own.logRight : own.logWrong;
    for (let h = 0; h < logs.length; h++) logs[h]! += said[h]!;
  }
  const most = logs.reduce((a, b) => max(a, b));
  const weights = logs.map((x) => exp(x - most));
  const sum = weights.reduce((a, b) => a + b);
  return weights.map((x) => x / sum);
}

/** How little will be known of the threshold after a trial there, as is expected; in nats, but for what is common to all places. */
function leftUnknown(weights: Float64Array, { right }: Chances): number {
  let [yes, no, left] = [0, 0, 0];
  for (let h = 0; h < weights.length; h += PER_THRESHOLD) {
    let [ownYes, ownNo] = [0, 0];
    for (let i = h; i < h + PER_THRESHOLD; i++) {
      ownYes += weights[i]! * right[i]!;
      ownNo += weights[i]! * (1 - right[i]!);
    }
    left -= times(ownYes) + times(ownNo);
    yes += ownYes;
    no += ownNo;
  }
  return left + times(yes) + times(no);
}

const times = (p: number) => (p > 0 ? p * log(p) : 0);

/**
 * Where the next difference is played: where the answer is expected to leave least unknown about the threshold
 * (minimum expected entropy: King-Smith et al. 1994, "Efficient and unbiased modifications of the QUEST threshold
 * method"; as in QUEST+, Watson 2017, with slope and lapses unknown as well, of which nothing is asked). The first two
 * are easy, so that one learns what to listen for.
 * @returns a place on the axis, 0 the hardest and 1 the easiest
 */
export function nextPlace(axis: Axis, given: readonly Given[]): number {
  if (given.length < EASY.length) return EASY[given.length]!;
  const weights = posterior(axis, given);
  let best = { place: 1, left: Number.POSITIVE_INFINITY };
  for (const [i, chances] of chancesOf(axis).entries()) {
    const left = leftUnknown(weights, chances);
    // Of places that teach as much the easier one is played.
    if (left <= best.left + 1e-9) best = { place: places[i]!, left };
  }
  return best.place;
}

/** What is thought of the threshold after these answers. */
export function estimateOf(axis: Axis, given: readonly Given[]): Estimate {
  const weights = posterior(axis, given);
  const own = thresholds.map((_, t) =>
    weights.subarray(t * PER_THRESHOLD, (t + 1) * PER_THRESHOLD).reduce((sum, p) => sum + p, 0),
  );
  const place = own.reduce((sum, p, t) => sum + p * thresholds[t]!, 0);
  return { place, from: within(own, 0.025), to: within(own, 0.975) };
}

/** The threshold below which a share of what is thought possible lies. */
function within(own: readonly number[], share: number): number {
  let sum = 0;
  for (const [t, p] of own.entries()) {
    sum += p;
    if (sum >= share) return thresholds[t]!;
  }
  return thresholds.at(-1)!;
}
