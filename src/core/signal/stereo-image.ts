import { eachBlock, type Sound } from './sound';
import { powerToDb } from './units';

const { max, sqrt } = Math;

/** A stereo clip in three numbers. */
export interface StereoImage {
  /** Correlation of left and right, -1 … 1: 1 is mono, 0 unrelated. */
  correlation: number;
  /** Side against middle, dB; null when there is no side. */
  widthDb: number | null;
  /** Right against left, dB: how far the picture leans. */
  centreOffsetDb: number;
}

/** Numbers of a stereo clip; null for anything but two channels that both sound. */
export function stereoImage(sound: Sound): StereoImage | null {
  if (sound.channels !== 2) return null;
  let [ll, rr, lr] = [0, 0, 0];
  eachBlock(sound, (block) => {
    const [left, right] = block as [Float64Array, Float64Array];
    for (let n = 0; n < left.length; n++) {
      ll += left[n]! * left[n]!;
      rr += right[n]! * right[n]!;
      lr += left[n]! * right[n]!;
    }
  });
  if (ll === 0 || rr === 0) return null;
  const [middle, side] = [ll + rr + 2 * lr, max(0, ll + rr - 2 * lr)];
  return {
    correlation: lr / sqrt(ll * rr),
    widthDb: side > 1e-12 * middle ? powerToDb(side / middle) : null,
    centreOffsetDb: powerToDb(rr / ll),
  };
}

/** Frequencies that two equal sounds take out of each other when one is late: (k + ½)/Δt. */
export function combNotchesHz(delayS: number, count: number, inverted = false): number[] {
  return Array.from({ length: count }, (_, k) => (inverted ? k + 1 : k + 0.5) / delayS);
}
