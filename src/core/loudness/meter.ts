import { BLOCK_FRAMES, eachBlock, type Sound } from '@/core/signal/sound';
import { amplitudeToDb, finiteOrNull, powerToDb } from '@/core/signal/units';
import type { WavFormat } from '@/core/wav/format';
import { type Loudness, LoudnessMeter } from './loudness-meter';
import { TruePeakMeter } from './true-peak';

/** Loudness and level of one file; null where undefined. */
export interface Measurement extends Loudness {
  truePeakDbtp: number | null;
  samplePeakDbfs: number | null;
  /** Mean square over all samples of all channels; a full-scale sine reads -3.01. */
  rmsDbfs: number | null;
  /** Arithmetic mean per channel, 1 = full scale. */
  dcOffset: number[];
  /** Samples at or past full scale, all channels. */
  clippedSamples: number;
}

const { abs, max } = Math;

/** How far a meter looks for true peaks, which takes most of its time. */
export interface PeakSearch {
  /** False where the true peak is not asked for; it reads null then. */
  truePeak?: boolean;
  /** A linear magnitude that the sound surely reaches; nothing is looked for below it. */
  atLeast?: number;
}

interface ChannelLevels {
  /** Null where it is not asked for. */
  truePeak: TruePeakMeter | null;
  sum: number;
  sumSquares: number;
  samplePeak: number;
}

/** Streaming meter of everything: loudness, true peak and plain levels. Push blocks of any size, then finish. */
export class Meter {
  private readonly loudness: LoudnessMeter;
  private readonly channels: ChannelLevels[];
  private readonly clipLevel: number;
  private frames = 0;
  private clipped = 0;

  /** @throws RangeError for rates outside 8 to 192 kHz */
  constructor(format: WavFormat, { truePeak = true, atLeast }: PeakSearch = {}) {
    this.loudness = new LoudnessMeter(format);
    this.channels = Array.from({ length: format.channels }, () => ({
      truePeak: truePeak ? new TruePeakMeter(atLeast) : null,
      sum: 0,
      sumSquares: 0,
      samplePeak: 0,
    }));
    this.clipLevel = format.encoding === 'float' ? 1 : 1 - 2 ** (1 - format.bitDepth);
  }

  /** Takes the next block, one array of equal length per channel. */
  push(block: readonly Float64Array[]): void {
    this.loudness.push(block);
    this.frames += block[0]?.length ?? 0;
    for (let c = 0; c < this.channels.length; c++) this.count(this.channels[c]!, block[c]!);
  }

  /** Plain sums, peaks and clipped samples. */
  private count(state: ChannelLevels, samples: Float64Array): void {
    let sum = 0;
    let squares = 0;
    let least = 0;
    let most = 0;
    // The sums wait for each other; the peak is looked for meanwhile.
    for (let n = 0; n < samples.length; n++) {
      const s = samples[n]!;
      sum += s;
      squares += s * s;
      if (s > most) most = s;
      else if (s < least) least = s;
    }
    state.sum += sum;
    state.sumSquares += squares;
    state.samplePeak = max(state.samplePeak, most, -least);
    state.truePeak?.push(samples);
    if (state.samplePeak < this.clipLevel) return;
    for (let n = 0; n < samples.length; n++) {
      if (abs(samples[n]!) >= this.clipLevel) this.clipped++;
    }
  }

  finish(): Measurement {
    const samples = this.frames * this.channels.length;
    const total = this.channels.reduce((sum, c) => sum + c.sumSquares, 0);
    return {
      ...this.loudness.finish(),
      truePeakDbtp: finiteOrNull(
        amplitudeToDb(max(0, ...this.channels.map((c) => c.truePeak?.finish() ?? 0))),
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
  const meter = new Meter(format, { atLeast: max(0, ...channels.map(samplePeak)) });
  for (let at = 0; at < channels[0]!.length; at += BLOCK_FRAMES) {
    meter.push(channels.map((samples) => samples.subarray(at, at + BLOCK_FRAMES)));
  }
  return meter.finish();
}

/** Programme loudness alone; null for silence. */
export function loudnessOf(sound: Sound, sampleRateHz: number): number | null {
  const { channels } = sound;
  const format = {
    sampleRateHz,
    channels,
    bitDepth: 32,
    encoding: 'float',
    channelMask: 0,
  } as const;
  const meter = new LoudnessMeter(format);
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
    const x = samples[n]!;
    // Seldom true, and then cheaper than taking a maximum every time.
    if (x > most) most = x;
    else if (x < least) least = x;
  }
  return max(most, -least);
}
