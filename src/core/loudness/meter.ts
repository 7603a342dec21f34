import type { Biquad } from '@/core/signal/biquad';
import { BLOCK_FRAMES, eachBlock, type Sound } from '@/core/signal/sound';
import { amplitudeToDb, finiteOrNull, powerToDb } from '@/core/signal/units';
import type { WavFormat } from '@/core/wav/format';
import { TruePeakMeter } from './true-peak';
import { channelWeights, kWeighting } from './weighting';

/** Loudness and level of one file; null where undefined. */
export interface Measurement {
  integratedLufs: number | null;
  momentaryMaxLufs: number | null;
  shortTermMaxLufs: number | null;
  loudnessRangeLu: number | null;
  truePeakDbtp: number | null;
  samplePeakDbfs: number | null;
  /** Mean square over all samples of all channels; a full-scale sine reads -3.01. */
  rmsDbfs: number | null;
  /** Arithmetic mean per channel, 1 = full scale. */
  dcOffset: number[];
  /** Samples at or past full scale, all channels. */
  clippedSamples: number;
}

const { abs, floor, max, min, round } = Math;

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
  truePeak: TruePeakMeter;
  sum: number;
  sumSquares: number;
  samplePeak: number;
}

/** How far a meter looks for true peaks, which takes most of its time. */
export interface PeakSearch {
  /** False where the true peak is not asked for; it reads null then. */
  truePeak?: boolean;
  /** A linear magnitude that the sound surely reaches; nothing is looked for below it. */
  atLeast?: number;
}

/**
 * Streaming loudness meter: ITU-R BS.1770-5 with both gates, EBU Tech 3341 maxima, EBU Tech 3342
 * range, true peak, and plain level numbers. Push blocks of any size, then finish.
 * Memory: 8 bytes per 10 ms.
 */
export class LoudnessMeter {
  private readonly channels: ChannelState[];
  private readonly clipLevel: number;
  private stepEnergies = new Float64Array(1024);
  private stepLengths = new Uint32Array(1024);
  private steps = 0;
  private stepEnergy = 0;
  private stepStart = 0;
  private stepEnd: number;
  private frames = 0;
  private clipped = 0;

  /** @throws RangeError for rates outside 8 to 192 kHz */
  constructor(
    private readonly format: WavFormat,
    private readonly looking: PeakSearch = {},
  ) {
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
      truePeak: new TruePeakMeter(looking.atLeast),
      sum: 0,
      sumSquares: 0,
      samplePeak: 0,
    }));
    this.clipLevel = format.encoding === 'float' ? 1 : 1 - 2 ** (1 - format.bitDepth);
    this.stepEnd = this.edge(1);
  }

  private edge(step: number): number {
    return round((step * this.format.sampleRateHz) / STEPS_PER_SECOND);
  }

  /** Takes the next block, one array of equal length per channel. */
  push(block: readonly Float64Array[]): void {
    const length = block[0]?.length ?? 0;
    for (let at = 0; at < length;) {
      const count = min(length - at, this.stepEnd - this.frames);
      for (let c = 0; c < this.channels.length; c++) {
        this.stepEnergy += this.filterPart(this.channels[c]!, block[c]!, at, at + count);
      }
      at += count;
      this.frames += count;
      if (this.frames === this.stepEnd) this.closeStep();
    }
    if (this.looking.truePeak === false) return;
    for (let c = 0; c < this.channels.length; c++) this.channels[c]!.truePeak.push(block[c]!);
  }

  /** Filters samples [from, to) and returns their weighted energy; keeps the plain sums too. */
  private filterPart(state: ChannelState, x: Float64Array, from: number, to: number): number {
    // The high-pass numerator is a multiple of (1, -2, 1): the factor is put on the energy.
    const [{ b0, b1, b2, a1, a2 }, { b0: gain, a1: qa1, a2: qa2 }] = state.sections;
    const z = state.z;
    let z0 = z[0]!;
    let z1 = z[1]!;
    let z2 = z[2]!;
    let z3 = z[3]!;
    let energy = 0;
    // What comes back (u, y) is subtracted last: the next sample waits for as little as can be.
    for (let n = from; n < to; n++) {
      const s = x[n]!;
      const u = b0 * s + z0;
      z0 = b1 * s + z1 - a1 * u;
      z1 = b2 * s - a2 * u;
      const y = u + z2;
      z2 = z3 - 2 * u - qa1 * y;
      z3 = u - qa2 * y;
      energy += y * y;
    }
    // Decaying filter states would become denormal numbers, which are very slow.
    if (abs(z0) + abs(z1) + abs(z2) + abs(z3) < 1e-30) z0 = z1 = z2 = z3 = 0;
    z[0] = z0;
    z[1] = z1;
    z[2] = z2;
    z[3] = z3;
    this.countPart(state, x, from, to);
    return state.weight * gain * gain * energy;
  }

  /** Plain sums, peak and clipped samples; a loop of its own, which is faster than one for all. */
  private countPart(state: ChannelState, x: Float64Array, from: number, to: number): void {
    let sum = 0;
    let squares = 0;
    let most = 0;
    let least = 0;
    for (let n = from; n < to; n++) {
      const s = x[n]!;
      sum += s;
      squares += s * s;
      // Seldom true, and then cheaper than taking a maximum every time.
      if (s > most) most = s;
      if (s < least) least = s;
    }
    state.sum += sum;
    state.sumSquares += squares;
    const peak = max(most, -least);
    state.samplePeak = max(state.samplePeak, peak);
    if (peak < this.clipLevel) return;
    for (let n = from; n < to; n++) if (abs(x[n]!) >= this.clipLevel) this.clipped++;
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

  finish(): Measurement {
    const samples = this.frames * this.channels.length;
    const total = this.channels.reduce((sum, c) => sum + c.sumSquares, 0);
    const shortTerm = this.windows(SHORT_TERM_STEPS, OVERLAP_STEPS);
    return {
      integratedLufs: integrated(this.windows(MOMENTARY_STEPS, OVERLAP_STEPS)),
      momentaryMaxLufs: loudestLufs(this.windows(MOMENTARY_STEPS, 1)),
      shortTermMaxLufs: loudestLufs(shortTerm),
      loudnessRangeLu: loudnessRange(shortTerm),
      truePeakDbtp: finiteOrNull(
        amplitudeToDb(max(0, ...this.channels.map((c) => c.truePeak.finish()))),
      ),
      samplePeakDbfs: finiteOrNull(
        amplitudeToDb(max(0, ...this.channels.map((c) => c.samplePeak))),
      ),
      rmsDbfs: samples === 0 ? null : finiteOrNull(powerToDb(total / samples)),
      dcOffset: this.channels.map((c) => (this.frames === 0 ? 0 : c.sum / this.frames)),
      clippedSamples: this.clipped,
    };
  }
}

/** Measures samples held in memory. */
export function measure(channels: readonly Float64Array[], format: WavFormat): Measurement {
  // A true peak is no less than the largest sample.
  const meter = new LoudnessMeter(format, { atLeast: max(0, ...channels.map(samplePeak)) });
  for (let at = 0; at < channels[0]!.length; at += BLOCK_FRAMES) {
    meter.push(channels.map((samples) => samples.subarray(at, at + BLOCK_FRAMES)));
  }
  return meter.finish();
}

/** Programme loudness alone; null for silence. */
export function loudnessOf(sound: Sound, sampleRateHz: number): number | null {
  const { channels } = sound;
  const meter = new LoudnessMeter(
    { sampleRateHz, channels, bitDepth: 32, encoding: 'float', channelMask: 0 },
    { truePeak: false },
  );
  eachBlock(sound, (block) => meter.push(block));
  return meter.finish().integratedLufs;
}

/**
 * Linear true peak of sound.
 * @param atLeast a magnitude that it surely reaches, such as its largest sample
 */
export function truePeakOf(sound: Sound, atLeast: number): number {
  const meters = Array.from({ length: sound.channels }, () => new TruePeakMeter(atLeast));
  eachBlock(sound, (block) => {
    for (const [c, samples] of block.entries()) meters[c]!.push(samples);
  });
  return max(...meters.map((meter) => meter.finish()));
}

function samplePeak(samples: Float64Array): number {
  let least = 0;
  let most = 0;
  for (let n = 0; n < samples.length; n++) {
    least = min(least, samples[n]!);
    most = max(most, samples[n]!);
  }
  return max(most, -least);
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
