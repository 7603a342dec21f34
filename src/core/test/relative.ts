import { filterInPlace } from '@/core/signal/biquad';
import { xorshiftNoise } from './signals';

// Looked up once: inside a test sandbox each use of a global is slow.
const { sin, cos, exp, PI } = Math;

/** Files whose relation is known, as the conformance set describes them. */
export interface RelativeCase {
  id: string;
  sampleRateHz: number;
  base: {
    type: 'noise' | 'sweep';
    seed?: number;
    amplitude: number;
    samples: number;
    f1?: number;
    f2?: number;
    startS?: number;
    lengthS?: number;
    fadeS?: number;
  };
  files: {
    name: string;
    delaySamples: number;
    gainDb: number;
    invert: boolean;
    biquad?: { b: number[]; a: number[] };
  }[];
  expect: {
    file: string;
    delaySamples?: number;
    delayTolerance?: number;
    polarityInverted: boolean;
    matchGainDifferenceDb?: number;
    matchGainTolerance?: number;
    broadbandDb?: number;
    broadbandTolerance?: number;
    bandTolerance: number;
    bands: { centerHz: number; differenceDb: number; tolerance?: number }[];
  }[];
}

function baseSignal(c: RelativeCase, delay: number): Float64Array {
  const { base, sampleRateHz } = c;
  if (base.type === 'noise') {
    const noise = xorshiftNoise(base.seed ?? 1, base.amplitude, base.samples);
    return Float64Array.from({ length: base.samples }, (_, n) => noise[n - delay] ?? 0);
  }
  const { f1 = 0, f2 = 0, startS = 0, lengthS = 0, fadeS = 0, amplitude } = base;
  const k = Math.log(f2 / f1);
  return Float64Array.from({ length: base.samples }, (_, n) => {
    const t = (n - delay) / sampleRateHz - startS;
    if (t < 0 || t > lengthS) return 0;
    const edge = t < fadeS ? t : t > lengthS - fadeS ? lengthS - t : fadeS;
    const w = 0.5 - 0.5 * cos((PI * edge) / fadeS);
    return w * amplitude * sin(((2 * PI * f1 * lengthS) / k) * (exp((t * k) / lengthS) - 1));
  });
}

/** Makes the samples of one file of a case. */
export function relativeFile(c: RelativeCase, file: RelativeCase['files'][number]): Float64Array {
  const samples = baseSignal(c, file.delaySamples);
  if (file.biquad) {
    const { b, a } = file.biquad;
    filterInPlace(samples, [{ b0: b[0]!, b1: b[1]!, b2: b[2]!, a1: a[1]!, a2: a[2]! }]);
  }
  const gain = 10 ** (file.gainDb / 20) * (file.invert ? -1 : 1);
  return samples.map((x) => x * gain);
}
