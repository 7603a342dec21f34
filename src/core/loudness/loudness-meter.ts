import type { Biquad } from '@/core/signal/biquad';
import { finiteOrNull, powerToDb } from '@/core/signal/units';
import type { WavFormat } from '@/core/wav/format';
import { channelWeights, kWeighting } from './weighting';

/** Loudness of one file over time; null where undefined. */
export interface Loudness {
  integratedLufs: number | null;
  momentaryMaxLufs: number | null;
  shortTermMaxLufs: number | null;
  loudnessRangeLu: number | null;
}

const { abs, floor, max, round } = Math;

const ABSOLUTE_GATE_LUFS = -70;
const OFFSET_LU = -0.691;
/** Energies are kept per 10 ms; windows are sums of these. */
const STEPS_PER_SECOND = 100;
const MOMENTARY_STEPS = 40;
const SHORT_TERM_STEPS = 300;
const OVERLAP_STEPS = 10;

const LOWEST_RATE_HZ = 8000;
const HIGHEST_RATE_HZ = 192000;

interface ChannelState {
  weight: number;
  sections: [Biquad, Biquad];
  /** Delay elements of both sections. */
  z: Float64Array;
}

/**
 * Streaming loudness meter: ITU-R BS.1770-5 with both gates, EBU Tech 3341 maxima, EBU Tech 3342
 * range. Push blocks of any size, then finish. Memory: 8 bytes per 10 ms.
 */
export class LoudnessMeter {
  private readonly channels: ChannelState[];
  private stepEnergies = new Float64Array(1024);
  private stepLengths = new Uint32Array(1024);
  private steps = 0;
  private stepEnergy = 0;
  private stepStart = 0;
  private stepEnd: number;
  private frames = 0;

  /** @throws RangeError for rates outside 8 to 192 kHz */
  constructor(private readonly format: WavFormat) {
    const { sampleRateHz } = format;
    if (sampleRateHz < LOWEST_RATE_HZ || sampleRateHz > HIGHEST_RATE_HZ) {
      throw new RangeError(
        `a sample rate of ${sampleRateHz} Hz cannot be measured; 8000 to 192000 Hz can`,
      );
    }
    this.channels = channelWeights(format.channels, format.channelMask).map((weight) => ({
      weight,
      sections: kWeighting(sampleRateHz),
      z: new Float64Array(4),
    }));
    this.stepEnd = this.edge(1);
  }

  private edge(step: number): number {
    return round((step * this.format.sampleRateHz) / STEPS_PER_SECOND);
  }

  /** Takes the next block, one array of equal length per channel. */
  push(block: readonly Float64Array[]): void {
    const length = block[0]?.length ?? 0;
    for (let at = 0; at < length;) {
      const count = Math.min(length - at, this.stepEnd - this.frames);
      const { channels } = this;
      let c = 0;
      for (; c + 1 < channels.length; c += 2) {
        this.stepEnergy += filterPair(
          channels[c]!,
          channels[c + 1]!,
          block[c]!,
          block[c + 1]!,
          at,
          at + count,
        );
      }
      if (c < channels.length) {
        this.stepEnergy += filterOne(channels[c]!, block[c]!, at, at + count);
      }
      at += count;
      this.frames += count;
      if (this.frames === this.stepEnd) this.closeStep();
    }
  }

  private closeStep(): void {
    if (this.steps === this.stepEnergies.length) {
      this.stepEnergies = grown(this.stepEnergies, new Float64Array(2 * this.steps));
      this.stepLengths = grown(this.stepLengths, new Uint32Array(2 * this.steps));
    }
    this.stepEnergies[this.steps] = this.stepEnergy;
    this.stepLengths[this.steps] = this.frames - this.stepStart;
    this.steps++;
    this.stepEnergy = 0;
    this.stepStart = this.frames;
    this.stepEnd = this.edge(this.steps + 1);
  }

  /** Mean square of the window of `width` steps beginning at each multiple of `hop` steps. */
  private windows(width: number, hop: number): Float64Array {
    const count = max(0, floor((this.steps - width) / hop) + 1);
    const means = new Float64Array(count);
    for (let i = 0; i < count; i++) {
      let energy = 0;
      let samples = 0;
      for (let s = i * hop; s < i * hop + width; s++) {
        energy += this.stepEnergies[s]!;
        samples += this.stepLengths[s]!;
      }
      means[i] = energy / samples;
    }
    return means;
  }

  finish(): Loudness {
    const shortTerm = this.windows(SHORT_TERM_STEPS, OVERLAP_STEPS);
    return {
      integratedLufs: integrated(this.windows(MOMENTARY_STEPS, OVERLAP_STEPS)),
      momentaryMaxLufs: loudestLufs(this.windows(MOMENTARY_STEPS, 1)),
      shortTermMaxLufs: loudestLufs(shortTerm),
      loudnessRangeLu: loudnessRange(shortTerm),
    };
  }
}

/** Filters samples [from, to) and returns their weighted energy. */
function filterOne(state: ChannelState, x: Float64Array, from: number, to: number): number {
  // The high-pass numerator is a multiple of (1, -2, 1): the factor is put on the energy.
  const [{ b0, b1, b2, a1, a2 }, { b0: gain, a1: qa1, a2: qa2 }] = state.sections;
  const z = state.z;
  let z0 = z[0]!;
  let z1 = z[1]!;
  let z2 = z[2]!;
  let z3 = z[3]!;
  let energy = 0;
  // What comes back (u, y) is left out of z0 and z2 until the next sample has been added to them: that sample
  // then waits for one product and one difference only.
  let u = 0;
  let y = 0;
  for (let n = from; n < to; n++) {
    const s = x[n]!;
    u = b0 * s + z0 - a1 * u;
    z0 = b1 * s + z1;
    z1 = b2 * s - a2 * u;
    y = u + z2 - qa1 * y;
    z2 = z3 - 2 * u;
    z3 = u - qa2 * y;
    energy += y * y;
  }
  keepState(z, z0 - a1 * u, z1, z2 - qa1 * y, z3);
  return state.weight * gain * gain * energy;
}

/**
 * The same for two channels at once: each sample of a filter waits for the one before it, and the other channel's
 * is worked out meanwhile.
 */
function filterPair(
  first: ChannelState,
  second: ChannelState,
  left: Float64Array,
  right: Float64Array,
  from: number,
  to: number,
): number {
  const [{ b0, b1, b2, a1, a2 }, { b0: gain, a1: qa1, a2: qa2 }] = first.sections;
  const l = first.z;
  const r = second.z;
  let l0 = l[0]!;
  let l1 = l[1]!;
  let l2 = l[2]!;
  let l3 = l[3]!;
  let r0 = r[0]!;
  let r1 = r[1]!;
  let r2 = r[2]!;
  let r3 = r[3]!;
  let lefts = 0;
  let rights = 0;
  for (let n = from; n < to; n++) {
    const ls = left[n]!;
    const rs = right[n]!;
    const lu = b0 * ls + l0;
    const ru = b0 * rs + r0;
    l0 = b1 * ls + l1 - a1 * lu;
    r0 = b1 * rs + r1 - a1 * ru;
    l1 = b2 * ls - a2 * lu;
    r1 = b2 * rs - a2 * ru;
    const ly = lu + l2;
    const ry = ru + r2;
    l2 = l3 - 2 * lu - qa1 * ly;
    r2 = r3 - 2 * ru - qa1 * ry;
    l3 = lu - qa2 * ly;
    r3 = ru - qa2 * ry;
    lefts += ly * ly;
    rights += ry * ry;
  }
  keepState(l, l0, l1, l2, l3);
  keepState(r, r0, r1, r2, r3);
  return gain * gain * (first.weight * lefts + second.weight * rights);
}

/** Decaying filter states would become denormal numbers, which are very slow. */
function keepState(z: Float64Array, z0: number, z1: number, z2: number, z3: number): void {
  const silent = abs(z0) + abs(z1) + abs(z2) + abs(z3) < 1e-30;
  z[0] = silent ? 0 : z0;
  z[1] = silent ? 0 : z1;
  z[2] = silent ? 0 : z2;
  z[3] = silent ? 0 : z3;
}

function toLufs(meanSquare: number): number {
  return OFFSET_LU + powerToDb(meanSquare);
}

function fromLufs(lufs: number): number {
  return 10 ** ((lufs - OFFSET_LU) / 10);
}

function loudestLufs(means: Float64Array): number | null {
  let largest = 0;
  for (const mean of means) if (mean > largest) largest = mean;
  return finiteOrNull(toLufs(largest));
}

/** BS.1770: mean of the blocks over -70 LUFS and over 10 LU below the mean of those. */
function integrated(blocks: Float64Array): number | null {
  const audible = blocks.filter((z) => z > fromLufs(ABSOLUTE_GATE_LUFS));
  if (audible.length === 0) return null;
  const gate = mean(audible) / 10;
  return toLufs(mean(audible.filter((z) => z > gate)));
}

/** Tech 3342: distance of the 10 % and 95 % points of the short-term loudness, gated at -70 and -20 LU. */
function loudnessRange(shortTerm: Float64Array): number | null {
  const audible = shortTerm.filter((z) => z > fromLufs(ABSOLUTE_GATE_LUFS));
  if (audible.length === 0) return null;
  const gate = mean(audible) / 100;
  const kept = audible.filter((z) => z >= gate).sort();
  const at = (share: number) => kept[round(share * (kept.length - 1))]!;
  return toLufs(at(0.95)) - toLufs(at(0.1));
}

function mean(values: Float64Array): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

function grown<T extends Float64Array | Uint32Array>(from: T, into: T): T {
  into.set(from);
  return into;
}
