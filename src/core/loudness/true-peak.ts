import { fractionalTaps } from '@/core/signal/interpolation';

const { abs, ceil, max, min } = Math;

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
const BLOCK_SAMPLES = BLOCK * GROUP;
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
 * How much steps between neighbouring samples can add at most to an output, per unit of the largest step. The taps sum
 * to one: by parts an output is a value between the two samples around it plus weighted steps before and after those.
 */
const STEP_GAIN = max(
  ...PHASES.map((taps) => {
    const upTo = (end: number) => taps.slice(0, end).reduce((sum, tap) => sum + tap, 0);
    return taps.reduce((sum, _, j) => {
      if (j === HALF - 1) return sum;
      return sum + abs(j < HALF - 1 ? upTo(j + 1) : 1 - upTo(j + 1));
    }, 0);
  }),
);

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
  /** Largest step from one sample to the next, block by block. */
  private steps = new Float64Array(0);

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
    this.steps = new Float64Array(this.blocks.length);
  }

  /** Lets the last samples ring out; call once at the end. */
  finish(): number {
    this.push(new Float64Array(HALF));
    return this.peak;
  }

  private scan(): void {
    const { joined, low, high, blocks, steps } = this;
    const groups = ceil((joined.length - TAPS + 1) / GROUP);
    const known = ceil(joined.length / GROUP);
    this.peak = max(this.peak, largestOfBlocks(joined, blocks));
    /** Groups before this one have their range, or are not asked for. */
    let ranged = 0;
    /** Blocks before this one have their largest step, or are not asked for. */
    let stepped = 0;
    for (let block = 0; block * BLOCK < groups; block++) {
      const largest = max(blocks[block]!, blocks[block + 1]!);
      if (LARGEST_GAIN * largest <= this.peak) continue;
      for (stepped = max(stepped, block); stepped < block + 2; stepped++) {
        steps[stepped] = largestStep(joined, stepped * BLOCK_SAMPLES);
      }
      if (largest + STEP_GAIN * max(steps[block]!, steps[block + 1]!) <= this.peak) continue;
      const first = block * BLOCK;
      const needed = min(known, first + BLOCK + REACH);
      rangesOf(joined, max(ranged, first), needed, low, high);
      ranged = needed;
      const last = min(first + BLOCK, groups);
      for (let group = first; group < last; group++) {
        if (boundOf(group, low, high) > this.peak) this.interpolate(group * GROUP);
      }
    }
  }

  /** Raises the peak to the outputs of a group between their samples. */
  private interpolate(from: number): void {
    const { joined } = this;
    const [p1, p2, p3] = PHASES as [Float64Array, Float64Array, Float64Array];
    const end = min(from + GROUP, joined.length - TAPS + 1);
    let peak = this.peak;
    for (let n = from; n < end; n++) {
      let a = 0;
      let b = 0;
      let c = 0;
      for (let k = 0; k < TAPS; k++) {
        const x = joined[n + k]!;
        a += p1[k]! * x;
        b += p2[k]! * x;
        c += p3[k]! * x;
      }
      peak = max(peak, abs(a), abs(b), abs(c));
    }
    this.peak = peak;
  }
}

/** What no output of a group can pass: the taps sum to one, so it is a middle value plus weighted distances from it. */
function boundOf(group: number, low: Float64Array, high: Float64Array): number {
  const middle = (low[group + MIDDLE]! + high[group + MIDDLE]!) / 2;
  let bound = abs(middle);
  for (let j = 0; j < REACH; j++) {
    const above = high[group + j]! - middle;
    const below = middle - low[group + j]!;
    bound += BOUNDS[j]! * (above > below ? above : below);
  }
  return bound;
}

/** Puts the largest magnitude of each block into its place. @returns the largest of them */
function largestOfBlocks(samples: Float64Array, blocks: Float64Array): number {
  let most = 0;
  for (let block = 0; block * BLOCK_SAMPLES < samples.length; block++) {
    const end = min((block + 1) * BLOCK_SAMPLES, samples.length);
    let largest = 0;
    for (let n = block * BLOCK_SAMPLES; n < end; n++) {
      const x = samples[n]!;
      // Seldom true, and then cheaper than taking a magnitude every time.
      if (x > largest) largest = x;
      else if (-x > largest) largest = -x;
    }
    blocks[block] = largest;
    if (largest > most) most = largest;
  }
  return most;
}

/** Largest step between neighbours, from each sample of the block that begins there. */
function largestStep(samples: Float64Array, from: number): number {
  const end = min(from + BLOCK_SAMPLES, samples.length - 1);
  let largest = 0;
  for (let n = from; n < end; n++) {
    const step = abs(samples[n + 1]! - samples[n]!);
    if (step > largest) largest = step;
  }
  return largest;
}

/** Smallest and largest sample of groups [from, to). */
function rangesOf(
  samples: Float64Array,
  from: number,
  to: number,
  low: Float64Array,
  high: Float64Array,
): void {
  for (let group = from; group < to; group++) {
    const end = min((group + 1) * GROUP, samples.length);
    let least = samples[group * GROUP]!;
    let most = least;
    for (let n = group * GROUP + 1; n < end; n++) {
      const x = samples[n]!;
      if (x < least) least = x;
      else if (x > most) most = x;
    }
    low[group] = least;
    high[group] = most;
  }
}
