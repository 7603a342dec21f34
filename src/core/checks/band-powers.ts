import { aWeightingDb } from '@/core/signal/a-weighting';
import { hannWindow, nextPowerOfTwo, spectrumOf } from '@/core/signal/fft';
import { finiteOrNull, powerToDb } from '@/core/signal/units';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';

const { ceil, floor, max, min, round } = Math;

/** Mean squares over the sounding time, dBFS. */
export interface BandPowers {
  /** By third of an octave, 25 Hz to 20 kHz; null above half the sample rate. */
  thirdsDb: (number | null)[];
  aWeightedDbfs: number | null;
  below120Dbfs: number | null;
}

/** Short enough for takes of a few seconds, long enough for the lowest third. */
const PIECE_S = 0.34;
/** Pieces overlap by three quarters: so their squared windows add up to the same everywhere. */
const OVERLAP = 4;
/** Of takes of more than a few minutes pieces lie farther apart; so many are enough for a mean. */
const MOST_PIECES = 4000;
const BLOCK_S = 0.01;
/** So far under the loudest it is silence, which belongs to no mean. */
const SILENCE_DB = 60;
/** Powers are kept by steps, as what the loudest is shows only at the end. */
const STEP_DB = 5;
const STEPS = 40;
/** Mean of a squared Hann window. */
const HANN_POWER = 0.375;

/** 0 for full scale and more, one step further for every five decibels less. */
const stepOf = (power: number) =>
  min(STEPS - 1, max(0, floor(-powerToDb(max(power, 1e-30)) / STEP_DB)));

/** Sums of a step of power, over all its pieces. */
interface Step {
  thirds: Float64Array;
  weighted: number;
  low: number;
}

/**
 * Welch's method (1967) over a whole take, block by block: every sample counts alike wherever the pieces begin, so a
 * take and its delayed copy give the same.
 */
export class BandPowerCollector {
  private readonly size: number;
  private readonly hop: number;
  private readonly window: Float64Array;
  private readonly piece: Float64Array;
  private readonly steps = new Map<number, Step>();
  private readonly blocks = new Float64Array(STEPS);
  private readonly blockSize: number;
  private readonly weights: Float64Array;
  /** First and last bin of each third. */
  private readonly ranges: readonly (readonly [number, number])[];
  private frame = 0;
  /** Where the running piece begins; the first ones reach before the take. */
  private begin: number;
  private block = 0;
  private blockFrames = 0;

  constructor(
    private readonly sampleRateHz: number,
    frames: number,
  ) {
    this.size = nextPowerOfTwo(PIECE_S * sampleRateHz);
    this.hop = max(this.size / OVERLAP, ceil(frames / MOST_PIECES));
    this.begin = min(0, this.hop - this.size);
    this.window = hannWindow(this.size);
    this.piece = new Float64Array(this.size);
    this.blockSize = round(BLOCK_S * sampleRateHz);
    const hzOf = (bin: number) => (bin * sampleRateHz) / this.size;
    this.weights = Float64Array.from({ length: this.size / 2 + 1 }, (_, k) =>
      hzOf(k) < 10 ? 0 : 10 ** (aWeightingDb(hzOf(k)) / 10),
    );
    const bin = (hz: number) => (hz * this.size) / sampleRateHz;
    this.ranges = THIRD_OCTAVES.map(({ fromHz, toHz }) => [
      max(1, ceil(bin(fromHz))),
      min(this.size / 2, floor(bin(toHz))),
    ]);
  }

  push(samples: Float64Array): void {
    for (const x of samples) this.count(x);
    const end = this.frame + samples.length;
    for (;;) {
      const from = max(this.frame, this.begin);
      const to = min(end, this.begin + this.size);
      if (from < to) {
        this.piece.set(samples.subarray(from - this.frame, to - this.frame), from - this.begin);
      }
      if (end < this.begin + this.size) break;
      this.take();
    }
    this.frame = end;
  }

  /** Power of ten milliseconds, for the time in which something sounds. */
  private count(x: number): void {
    this.block += x * x;
    if (++this.blockFrames < this.blockSize) return;
    this.blocks[stepOf(this.block / this.blockSize)]!++;
    this.block = 0;
    this.blockFrames = 0;
  }

  private take(): void {
    const cut = this.piece.map((x, n) => x * this.window[n]!);
    const power = this.piece.reduce((sum, x) => sum + x * x, 0) / this.size;
    if (power > 0) this.add(spectrumOf(cut, this.size), stepOf(power));
    // What lies under the next piece, too, moves to its beginning.
    this.piece.copyWithin(0, min(this.hop, this.size));
    this.piece.fill(0, max(0, this.size - this.hop));
    this.begin += this.hop;
  }

  private add(spectrum: Float64Array, at: number): void {
    const step = this.steps.get(at) ?? {
      thirds: new Float64Array(THIRD_OCTAVES.length),
      weighted: 0,
      low: 0,
    };
    this.steps.set(at, step);
    const power = (k: number) => spectrum[2 * k]! ** 2 + spectrum[2 * k + 1]! ** 2;
    this.ranges.forEach(([from, to], i) => {
      for (let k = from; k <= to; k++) step.thirds[i]! += power(k);
    });
    const lowest = ceil((10 * this.size) / this.sampleRateHz);
    const low = floor((120 * this.size) / this.sampleRateHz);
    for (let k = 1; k < this.weights.length; k++) {
      if (this.weights[k]! > 0) step.weighted += this.weights[k]! * power(k);
      if (k >= lowest && k <= low) step.low += power(k);
    }
  }

  finish(): BandPowers {
    // The last pieces reach beyond the take.
    while (this.begin < this.frame) this.take();
    const loudest = this.blocks.findIndex((count) => count > 0);
    const last = max(0, loudest) + SILENCE_DB / STEP_DB;
    const sounding = this.blocks.subarray(0, last + 1).reduce((sum, count) => sum + count, 0);
    const kept = [...this.steps].flatMap(([at, step]) => (at <= last ? [step] : []));
    // Bins add up to the mean square of a piece; pieces to that of the time they stand for.
    const perPiece = 2 / (HANN_POWER * this.size * this.size);
    const time = max(1, (sounding * this.blockSize) / this.hop);
    const level = (of: (step: Step) => number) => {
      const sum = kept.reduce((all, step) => all + of(step), 0);
      return finiteOrNull(round(100 * powerToDb((perPiece * sum) / time)) / 100);
    };
    return {
      thirdsDb: THIRD_OCTAVES.map(({ toHz }, i) =>
        toHz > this.sampleRateHz / 2 ? null : level(({ thirds }) => thirds[i]!),
      ),
      aWeightedDbfs: level(({ weighted }) => weighted),
      below120Dbfs: level(({ low }) => low),
    };
  }
}
