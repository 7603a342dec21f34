import normalCdf from '@stdlib/stats-base-dists-normal-cdf';

/** Tasks with a right answer, and how often guessing is right. */
export const GUESS = { 'duo-trio': 1 / 2, triangle: 1 / 3, 'two-interval': 1 / 2 } as const;
export type ForcedTask = keyof typeof GUESS;

const cdf = (z: number) => normalCdf(z, 0, 1);
const density = (z: number) => Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);

/** Simpson's rule over the density's range; steps fine enough for 1e-8. */
function triangleShare(d: number): number {
  const [reach, steps] = [9, 400];
  const h = reach / steps;
  let sum = 0;
  for (let i = 0; i <= steps; i++) {
    const z = i * h;
    const shift = d * Math.sqrt(2 / 3);
    const inner = cdf(-z * Math.sqrt(3) + shift) + cdf(-z * Math.sqrt(3) - shift);
    const weight = i === 0 || i === steps ? 1 : i % 2 === 1 ? 4 : 2;
    sum += weight * inner * density(z);
  }
  return (2 * sum * h) / 3;
}

/** Share of right answers at a sensitivity d′ ≥ 0 (Ennis 1993). */
export function rightShare(task: ForcedTask, d: number): number {
  if (task === 'two-interval') return cdf(d / Math.SQRT2);
  if (task === 'triangle') return triangleShare(d);
  const [x, y] = [cdf(d / Math.SQRT2), cdf(d / Math.sqrt(6))];
  return 1 - x - y + 2 * x * y;
}

const MOST = 60;

/** The d′ with this share of right answers, by bisection; 0 up to the guessing share, null for all right. */
export function dPrimeOf(task: ForcedTask, share: number): number | null {
  if (share <= GUESS[task]) return 0;
  if (share >= 1) return null;
  let [low, high] = [0, MOST];
  for (let i = 0; i < 200 && high - low > 1e-9 * (1 + high); i++) {
    const middle = (low + high) / 2;
    if (rightShare(task, middle) < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Right answers with one clip alone and both learned (A or not-A): half of d′ lies to either side of the place between
 * the two (Macmillan & Creelman 2005), Φ(d′/2).
 */
export const rememberedShare = (dPrime: number): number => normalCdf(dPrime / 2, 0, 1);
