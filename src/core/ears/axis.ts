const { exp, log, LN10 } = Math;

/**
 * How large a difference can be, and how sizes are spaced. On a `ratio` axis equal steps are equal ratios (0.1 dB to
 * 0.2 dB is 1 dB to 2 dB); on a `level` axis sizes are levels in dB already, and equal steps are equal differences.
 */
export interface Axis {
  scale: 'ratio' | 'level';
  hardest: number;
  easiest: number;
}

/** The size at a place of the axis: 0 the hardest, 1 the easiest. */
export function amountAt({ scale, hardest, easiest }: Axis, place: number): number {
  return scale === 'ratio'
    ? hardest * (easiest / hardest) ** place
    : hardest + (easiest - hardest) * place;
}

/** The place of a size: 0 the hardest, 1 the easiest, beyond both for sizes beyond. */
export function placeOf({ scale, hardest, easiest }: Axis, amount: number): number {
  return scale === 'ratio'
    ? log(amount / hardest) / log(easiest / hardest)
    : (amount - hardest) / (easiest - hardest);
}

/** How many times e the size grows from the hardest to the easiest, as an amplitude. */
export function foldsOf({ scale, hardest, easiest }: Axis): number {
  return scale === 'ratio' ? log(easiest / hardest) : ((easiest - hardest) * LN10) / 20;
}

/** Share of answers that are right at a place, without lapses: a Weibull function of the size. */
export function weibull(folds: number, place: number, threshold: number, slope: number): number {
  return 1 - exp(-exp(slope * folds * (place - threshold)));
}
