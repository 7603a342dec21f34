import type { Stage } from './stage';

/** Second-order section, a0 = 1: y[n] = b0·x[n] + b1·x[n-1] + b2·x[n-2] - a1·y[n-1] - a2·y[n-2]. */
export interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/** Filters samples through sections one after another, from rest, in place (transposed form II). */
export function filterInPlace(samples: Float64Array, sections: readonly Biquad[]): Float64Array {
  filterOn(samples, sections, new Float64Array(2 * sections.length));
  return samples;
}

/** Sections one after another as a stage. */
export function filterStage(channels: number, sections: readonly Biquad[]): Stage {
  const states = Array.from({ length: channels }, () => new Float64Array(2 * sections.length));
  return {
    latency: 0,
    run: (block) => {
      for (const [c, samples] of block.entries()) filterOn(samples, sections, states[c]!);
    },
  };
}

/** @param z delay elements of all sections, two each; they go on from one call to the next */
function filterOn(samples: Float64Array, sections: readonly Biquad[], z: Float64Array): void {
  let s = 0;
  for (; s + 1 < sections.length; s += 2)
    filterTwo(samples, sections[s]!, sections[s + 1]!, z, 2 * s);
  if (s < sections.length) filterOne(samples, sections[s]!, z, 2 * s);
  // Decaying states would become denormal numbers, which are very slow.
  for (let i = 0; i < z.length; i++) if (Math.abs(z[i]!) < 1e-30) z[i] = 0;
}

function filterOne(samples: Float64Array, section: Biquad, z: Float64Array, at: number): void {
  const { b0, b1, b2, a1, a2 } = section;
  let z0 = z[at]!;
  let z1 = z[at + 1]!;
  for (let n = 0; n < samples.length; n++) {
    const x = samples[n]!;
    const y = b0 * x + z0;
    z0 = b1 * x + z1 - a1 * y;
    z1 = b2 * x - a2 * y;
    samples[n] = y;
  }
  z[at] = z0;
  z[at + 1] = z1;
}

/** Two at once: the second waits for less of the first than for its own past. What comes back goes in last. */
function filterTwo(
  samples: Float64Array,
  { b0, b1, b2, a1, a2 }: Biquad,
  { b0: d0, b1: d1, b2: d2, a1: c1, a2: c2 }: Biquad,
  z: Float64Array,
  at: number,
): void {
  let z0 = z[at]!;
  let z1 = z[at + 1]!;
  let z2 = z[at + 2]!;
  let z3 = z[at + 3]!;
  for (let n = 0; n < samples.length; n++) {
    const x = samples[n]!;
    const u = b0 * x + z0;
    z0 = b1 * x + z1 - a1 * u;
    z1 = b2 * x - a2 * u;
    const y = d0 * u + z2;
    z2 = d1 * u + z3 - c1 * y;
    z3 = d2 * u - c2 * y;
    samples[n] = y;
  }
  z[at] = z0;
  z[at + 1] = z1;
  z[at + 2] = z2;
  z[at + 3] = z3;
}

/** Gain in dB of a cascade at a frequency. */
export function responseDb(
  sections: readonly Biquad[],
  frequencyHz: number,
  sampleRateHz: number,
): number {
  const w = (2 * Math.PI * frequencyHz) / sampleRateHz;
  const [c1, s1, c2, s2] = [Math.cos(w), Math.sin(w), Math.cos(2 * w), Math.sin(2 * w)];
  let db = 0;
  for (const { b0, b1, b2, a1, a2 } of sections) {
    const numerator = (b0 + b1 * c1 + b2 * c2) ** 2 + (b1 * s1 + b2 * s2) ** 2;
    const denominator = (1 + a1 * c1 + a2 * c2) ** 2 + (a1 * s1 + a2 * s2) ** 2;
    db += 10 * Math.log10(numerator / denominator);
  }
  return db;
}

type Shape = 'lowpass' | 'highpass' | 'bandpass' | 'bell' | 'lowshelf' | 'highshelf';

/**
 * Bilinear-transform sections after R. Bristow-Johnson, "Cookbook formulae for audio EQ biquad
 * filter coefficients". Band-pass has 0 dB at its centre. Frequencies are kept below 0.49 of the rate.
 */
export function designBiquad(
  shape: Shape,
  frequencyHz: number,
  sampleRateHz: number,
  q: number,
  gainDb = 0,
): Biquad {
  const w = (2 * Math.PI * Math.min(frequencyHz, 0.49 * sampleRateHz)) / sampleRateHz;
  const cos = Math.cos(w);
  const alpha = Math.sin(w) / (2 * q);
  const a = 10 ** (gainDb / 40);
  const root = 2 * Math.sqrt(a) * alpha;
  const normalised = (
    b0: number,
    b1: number,
    b2: number,
    a0: number,
    a1: number,
    a2: number,
  ): Biquad => ({ b0: b0 / a0, b1: b1 / a0, b2: b2 / a0, a1: a1 / a0, a2: a2 / a0 });
  switch (shape) {
    case 'lowpass':
      return normalised((1 - cos) / 2, 1 - cos, (1 - cos) / 2, 1 + alpha, -2 * cos, 1 - alpha);
    case 'highpass':
      return normalised((1 + cos) / 2, -1 - cos, (1 + cos) / 2, 1 + alpha, -2 * cos, 1 - alpha);
    case 'bandpass':
      return normalised(alpha, 0, -alpha, 1 + alpha, -2 * cos, 1 - alpha);
    case 'bell':
      return normalised(
        1 + alpha * a,
        -2 * cos,
        1 - alpha * a,
        1 + alpha / a,
        -2 * cos,
        1 - alpha / a,
      );
    case 'lowshelf':
      return normalised(
        a * (a + 1 - (a - 1) * cos + root),
        2 * a * (a - 1 - (a + 1) * cos),
        a * (a + 1 - (a - 1) * cos - root),
        a + 1 + (a - 1) * cos + root,
        -2 * (a - 1 + (a + 1) * cos),
        a + 1 + (a - 1) * cos - root,
      );
    case 'highshelf':
      return normalised(
        a * (a + 1 + (a - 1) * cos + root),
        -2 * a * (a - 1 + (a + 1) * cos),
        a * (a + 1 + (a - 1) * cos - root),
        a + 1 - (a - 1) * cos + root,
        2 * (a - 1 - (a + 1) * cos),
        a + 1 - (a - 1) * cos - root,
      );
  }
}
