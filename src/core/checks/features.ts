import { printedToneDbfs } from '@/core/loudness/tone';
import { hannWindow, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import { soundOf } from '@/core/signal/sound';
import { dbToAmplitude, powerToDb } from '@/core/signal/units';
import { type BandPowers, BandPowerCollector } from './band-powers';

const { abs, floor, max, min, round } = Math;

/** What checks need that loudness does not tell. */
export interface TakeFeatures {
  /** Mains hum in the quiet quarter of the take. */
  hum: { hz: 50 | 60; levelDbfs: number } | null;
  /** Stretches inside the sound where one value stands still. */
  dropouts: { count: number; longestS: number; firstS: number };
  /** Share of all samples within 0.3 dB of the highest one. */
  nearPeakShare: number;
  /** Where the spectrum ends as if cut off; null when it fades as sound does. */
  cutoffHz: number | null;
  /** A printed 1 kHz tone in the first minute. */
  toneDbfs: number | null;
  /** Absent in takes of earlier versions. */
  thirdsDb?: BandPowers['thirdsDb'];
  aWeightedDbfs?: BandPowers['aWeightedDbfs'];
  below120Dbfs?: BandPowers['below120Dbfs'];
}

const STILL_S = 0.002;
/** Longer ones are silence of the recording, not a loss. */
const LONGEST_STILL_S = 0.5;
/** A pause fades out and in again; a loss breaks off: samples beside a pause are this small a part of the sound. */
const FADED_SHARE = 0.05;
/** What goes on before and after a loss has to be sound, not noise. */
const SOUND = dbToAmplitude(-50);
const NEAR_PEAK_DB = 0.3;
const PIECES = 60;
const PIECE_S = 1;
const TONE_S = 60;
const HUM_HARMONICS = [1, 2, 3, 4] as const;
const HUM_OVER_DB = 15;
const HUM_LEAST_DBFS = -90;
const LOW_END_HZ = 400;
/** A cut: this much less within a kilohertz, from something to nearly nothing. */
const CUT_DB = 30;
const CUT_LEAST_HZ = 9_000;
/** Steps of magnitude up to full scale; enough to tell 0.3 dB for peaks over -50 dBFS. */
const HISTOGRAM_STEPS = 16_384;

interface Piece {
  power: number;
  low: Float64Array;
}

/**
 * Collects features block by block from the first channel (dropouts: from any). Memory does not grow
 * with the length: about a minute of sound and sixty short spectra.
 */
export class FeatureCollector {
  private readonly size: number;
  private readonly window: Float64Array;
  private readonly buffer: Float64Array;
  private readonly hop: number;
  private readonly toneBuffer: Float64Array;
  private readonly pieces: Piece[] = [];
  private readonly mean: Float64Array;
  private readonly bands: BandPowerCollector;
  private readonly histogram = new Uint32Array(HISTOGRAM_STEPS + 1);
  private frame = 0;
  private nextPiece = 0;
  private still = 0;
  private stillValue = Number.NaN;
  /** The sample before the value that stands still. */
  private before = 0;
  private loudBefore = 0;
  private pending: { atS: number; lengthS: number } | null = null;
  private readonly dropouts = { count: 0, longestS: 0, firstS: 0 };

  constructor(
    private readonly sampleRateHz: number,
    frames: number,
  ) {
    this.size = nextPowerOfTwo(PIECE_S * sampleRateHz);
    this.window = hannWindow(this.size);
    this.buffer = new Float64Array(this.size);
    this.hop = max(this.size, floor(frames / PIECES));
    this.toneBuffer = new Float64Array(min(frames, round(TONE_S * sampleRateHz)));
    this.mean = new Float64Array(this.size / 2 + 1);
    this.bands = new BandPowerCollector(sampleRateHz, frames);
  }

  push(block: readonly Float64Array[]): void {
    const samples = block[0]!;
    if (this.frame < this.toneBuffer.length) {
      this.toneBuffer.set(samples.subarray(0, this.toneBuffer.length - this.frame), this.frame);
    }
    this.gatherPieces(samples);
    this.bands.push(samples);
    for (let n = 0; n < samples.length; n++) this.step(samples[n]!, this.frame + n);
    this.frame += samples.length;
  }

  /** Copies what falls into the running piece; a full one becomes a spectrum. */
  private gatherPieces(samples: Float64Array): void {
    for (;;) {
      const from = max(this.frame, this.nextPiece);
      const to = min(this.frame + samples.length, this.nextPiece + this.size);
      if (from >= to) return;
      this.buffer.set(samples.subarray(from - this.frame, to - this.frame), from - this.nextPiece);
      if (to < this.nextPiece + this.size) return;
      this.takePiece();
      this.nextPiece += this.hop;
    }
  }

  private takePiece(): void {
    const cut = new Float64Array(this.size);
    let power = 0;
    for (let n = 0; n < this.size; n++) {
      power += this.buffer[n]! ** 2;
      cut[n] = this.buffer[n]! * this.window[n]!;
    }
    const spectrum = spectrumOf(cut, this.size);
    // Bins add up to the mean square; Hann takes 0.375 of the power.
    const scale = 2 / (0.375 * this.size * this.size);
    const low = new Float64Array(round((LOW_END_HZ * this.size) / this.sampleRateHz));
    for (let k = 0; k < this.mean.length; k++) {
      const bin = scale * (spectrum[2 * k]! ** 2 + spectrum[2 * k + 1]! ** 2);
      this.mean[k]! += bin;
      if (k < low.length) low[k] = bin;
    }
    this.pieces.push({ power, low });
  }

  private step(x: number, at: number): void {
    const magnitude = abs(x);
    this.histogram[magnitude >= 1 ? HISTOGRAM_STEPS : floor(magnitude * HISTOGRAM_STEPS)]!++;
    if (x === this.stillValue) {
      this.still++;
      return;
    }
    const seconds = this.still / this.sampleRateHz;
    const faded = FADED_SHARE * this.loudBefore;
    const pause = this.stillValue === 0 && abs(this.before) < faded && magnitude < faded;
    if (seconds >= STILL_S && seconds <= LONGEST_STILL_S && this.loudBefore > SOUND && !pause) {
      this.pending = { atS: (at - this.still) / this.sampleRateHz, lengthS: seconds };
    }
    this.before = this.stillValue;
    this.stillValue = x;
    this.still = 1;
    // A loss counts once sound goes on after it.
    if (this.pending && magnitude > SOUND) {
      if (this.dropouts.count === 0) this.dropouts.firstS = this.pending.atS;
      this.dropouts.count++;
      this.dropouts.longestS = max(this.dropouts.longestS, this.pending.lengthS);
      this.pending = null;
    }
    this.loudBefore = max(magnitude, 0.9995 * this.loudBefore);
  }

  finish(): TakeFeatures {
    return {
      hum: this.hum(),
      dropouts: this.dropouts,
      nearPeakShare: this.nearPeakShare(),
      cutoffHz: this.cutoff(),
      toneDbfs: printedToneDbfs(soundOf([this.toneBuffer]), this.sampleRateHz),
      ...this.bands.finish(),
    };
  }

  private nearPeakShare(): number {
    const highest = this.histogram.findLastIndex((count) => count > 0);
    if (highest <= 0) return 0;
    let near = 0;
    const from = round(highest * dbToAmplitude(-NEAR_PEAK_DB));
    for (let slot = from; slot <= highest; slot++) near += this.histogram[slot]!;
    return near / this.frame;
  }

  /** Lines at multiples of the mains that stand out from their surroundings where the take is quiet. */
  private hum(): TakeFeatures['hum'] {
    if (this.pieces.length === 0) return null;
    const quiet = [...this.pieces]
      .sort((a, b) => a.power - b.power)
      .slice(0, max(1, floor(this.pieces.length / 4)));
    const low = quiet[0]!.low.map(
      (_, k) => quiet.reduce((sum, piece) => sum + piece.low[k]!, 0) / quiet.length,
    );
    const bin = (hz: number) => round((hz * this.size) / this.sampleRateHz);
    for (const hz of [50, 60] as const) {
      let standing = 0;
      let power = 0;
      for (const harmonic of HUM_HARMONICS) {
        const at = bin(hz * harmonic);
        const line = max(low[at - 1]!, low[at]!, low[at + 1]!);
        const around = [
          ...low.subarray(at - bin(12), at - bin(4)),
          ...low.subarray(at + bin(4), at + bin(12)),
        ].sort((a, b) => a - b);
        const median = around[floor(around.length / 2)] ?? 0;
        if (powerToDb(line) - powerToDb(max(median, 1e-20)) < HUM_OVER_DB) continue;
        standing++;
        // The window spreads a line over its neighbours.
        for (let k = at - 2; k <= at + 2; k++) power += low[k]!;
      }
      const levelDbfs = powerToDb(power);
      if (standing >= 2 && levelDbfs > HUM_LEAST_DBFS) return { hz, levelDbfs };
    }
    return null;
  }

  /** The lowest frequency over which the mean spectrum falls off a cliff and stays down. */
  private cutoff(): number | null {
    if (this.pieces.length === 0) return null;
    const perKhz = round((1000 * this.size) / this.sampleRateHz);
    const halfKhz = perKhz >> 1;
    const half = this.mean.length - 1;
    const band = (from: number) => {
      let sum = 0;
      for (let k = from; k < min(from + halfKhz, half); k++) sum += this.mean[k]!;
      return powerToDb(max(sum, 1e-20));
    };
    const least = round((CUT_LEAST_HZ * this.size) / this.sampleRateHz);
    for (let k = least; k + 2 * perKhz < half; k += floor(perKhz / 4)) {
      const [below, above] = [band(k - halfKhz), band(k + perKhz)];
      let highest = above;
      for (let j = k + perKhz; j + halfKhz < half; j += halfKhz) highest = max(highest, band(j));
      if (below - highest >= CUT_DB && below > -110)
        return ((k + halfKhz) * this.sampleRateHz) / this.size;
    }
    return null;
  }
}
