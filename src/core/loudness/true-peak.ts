import { fractionalTaps } from '@/core/signal/interpolation';

const { abs, ceil, floor, max, min } = Math;

const HALF = 12;
const TAPS = 2 * HALF;
const BETA = 5.5;
/** Outputs that are judged together. */
const GROUP = 4;

const PHASES = [0.25, 0.5, 0.75].map((fraction) => fractionalTaps(fraction, HALF, BETA));
/** Groups of samples that the taps of one group of outputs reach over. */
const REACH = (TAPS + GROUP) / GROUP;
const MIDDLE = REACH >> 1;
/** Groups that are passed over together where the sound is quiet; no fewer than a reach. */
const BLOCK = 16;
/** No interpolated value can pass the largest sample times this. */
export const LARGEST_GAIN = max(
  ...PHASES.map((taps) => taps.reduce((sum, tap) => sum + abs(tap), 0)),
);
/**
 * How much each of these groups can move an output at most, per unit of its samples' distance from
 * the middle value; over all phases and all outputs of the group.
 */
const BOUNDS = Float64Array.from({ length: REACH }, (_, group) => {
  let most = 0;
  for (const taps of PHASES) {
    for (let shift = 0; shift < GROUP; shift++) {
      let sum = 0;
      for (let n = group * GROUP; n < (group + 1) * GROUP; n++) sum += abs(taps[n - shift] ?? 0);
      most = max(most, sum);
    }
  }
  return most;
});

/**
 * True peak of one channel (ITU-R BS.1770 annex 2): four times oversampled by 24-tap phases.
 * Stretches that cannot raise the peak found so far are passed over; the result is the same.
 */
export class TruePeakMeter {
  /** The last TAPS - 1 samples of the block before, then the block. */
  private joined = new Float64Array(TAPS - 1);
  /** Smallest and largest sample of each group, and largest magnitude of each block of groups. */
  private low = new Float64Array(0);
  private high = new Float64Array(0);
  private blocks = new Float64Array(0);

  /** @param peak largest magnitude so far, linear; nothing below a given one is looked at */
  constructor(public peak = 0) {}

  push(samples: Float64Array): void {
    const before = this.joined.subarray(this.joined.length - (TAPS - 1));
    const length = TAPS - 1 + samples.length;
    if (this.joined.length === length) this.joined.set(before);
    else this.makeRoom(length, before);
    this.joined.set(samples, TAPS - 1);
    this.scan();
  }

  private makeRoom(length: number, before: Float64Array): void {
    this.joined = new Float64Array(length);
    this.joined.set(before);
    const groups = ceil(length / GROUP);
    this.low = new Float64Array(groups + REACH);
    this.high = new Float64Array(groups + REACH);
    this.blocks = new Float64Array(ceil(groups / BLOCK) + 2);
  }

  /** Lets the last samples ring out; call once at the end. */
  finish(): number {
    this.push(new Float64Array(HALF));
    return this.peak;
  }

  private scan(): void {
    const { joined, low, high, blocks } = this;
    blocks.fill(0);
    const windows = joined.length - TAPS + 1;
    const [p1, p2, p3] = PHASES;
    const groups = ceil(joined.length / GROUP);
    let peak = this.peak;
    for (let group = 0; group < groups; group++) {
      const end = min((group + 1) * GROUP, joined.length);
      let least = joined[group * GROUP];
      let most = least;
      for (let n = group * GROUP + 1; n < end; n++) {
        const x = joined[n];
        if (x < least) least = x;
        else if (x > most) most = x;
      }
      low[group] = least;
      high[group] = most;
      const block = floor(group / BLOCK);
      const magnitude = most > -least ? most : -least;
      if (magnitude > blocks[block]) blocks[block] = magnitude;
      if (magnitude > peak) peak = magnitude;
    }
    for (let start = 0; start < windows; start += GROUP) {
      const group = start / GROUP;
      if (group % BLOCK === 0) {
        const block = group / BLOCK;
        if (LARGEST_GAIN * max(blocks[block], blocks[block + 1]) <= peak) {
          start += (BLOCK - 1) * GROUP;
          continue;
        }
      }
      // The taps sum to one, so an output is a middle value plus weighted distances from it.
      const middle = (low[group + MIDDLE] + high[group + MIDDLE]) / 2;
      let bound = middle < 0 ? -middle : middle;
      for (let j = 0; j < REACH; j++) {
        const above = high[group + j] - middle;
        const below = middle - low[group + j];
        bound += BOUNDS[j] * (above > below ? above : below);
      }
      if (bound <= peak) continue;
      const end = min(start + GROUP, windows);
      for (let n = start; n < end; n++) {
        let a = 0;
        let b = 0;
        let c = 0;
        for (let k = 0; k < TAPS; k++) {
          const x = joined[n + k];
          a += p1[k] * x;
          b += p2[k] * x;
          c += p3[k] * x;
        }
        if (a > peak || -a > peak) peak = a < 0 ? -a : a;
        if (b > peak || -b > peak) peak = b < 0 ? -b : b;
        if (c > peak || -c > peak) peak = c < 0 ? -c : c;
      }
    }
    this.peak = peak;
  }
}
