import { readFileSync } from 'node:fs';
import path from 'node:path';

// Looked up once: inside a test sandbox each use of a global is slow.
const { sin, PI } = Math;

/** One signal of the conformance set, as its JSON describes it. */
export interface SignalCase {
  id: string;
  sampleRateHz: number;
  channels: number;
  repeat?: number;
  store?: 'pcm16' | 'float32';
  segments: {
    samples: number;
    fadeInSamples?: number;
    fadeOutSamples?: number;
    tracks?: Track[];
  }[];
  expect: { field: string; value: number | null; plus: number; minus: number }[];
}

interface Track {
  type: 'sine' | 'noise' | 'constant';
  channel: number | 'all';
  frequencyHz?: number;
  amplitude?: number;
  levelDbfs?: number;
  phaseDeg?: number;
  value?: number;
  seed?: number;
}

export function conformanceJson<T>(name: string): T {
  const file = path.join(process.cwd(), 'conformance', name);
  return JSON.parse(readFileSync(file, 'utf8')) as T;
}

/** The xorshift32 noise of the conformance set. */
export function xorshiftNoise(seed: number, amplitude: number, samples: number): Float64Array {
  const out = new Float64Array(samples);
  let s = seed >>> 0;
  for (let n = 0; n < samples; n++) {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    s >>>= 0;
    out[n] = (amplitude * (s - 2147483648)) / 2147483648;
  }
  return out;
}

/** Makes the samples that a conformance case describes. */
export function makeSignal(signal: SignalCase): Float64Array[] {
  const once = signal.segments.reduce((sum, s) => sum + s.samples, 0);
  const repeat = signal.repeat ?? 1;
  const out = Array.from({ length: signal.channels }, () => new Float64Array(once * repeat));
  let start = 0;
  for (const segment of signal.segments) {
    for (const track of segment.tracks ?? []) {
      const samples = makeTrack(track, segment.samples, signal.sampleRateHz);
      const targets = track.channel === 'all' ? out : [out[track.channel]!];
      for (const target of targets) {
        for (let n = 0; n < samples.length; n++) target[start + n]! += samples[n]!;
      }
    }
    for (const target of out) {
      const fadeIn = segment.fadeInSamples ?? 0;
      const fadeOut = segment.fadeOutSamples ?? 0;
      for (let n = 0; n < fadeIn; n++) target[start + n]! *= n / fadeIn;
      for (let j = 0; j < fadeOut; j++) {
        target[start + segment.samples - 1 - j]! *= (j + 1) / fadeOut;
      }
    }
    start += segment.samples;
  }
  for (const target of out) {
    for (let r = 1; r < repeat; r++) target.copyWithin(r * once, 0, once);
  }
  return out;
}

function makeTrack(track: Track, samples: number, sampleRateHz: number): Float64Array {
  if (track.type === 'constant') return new Float64Array(samples).fill(track.value ?? 0);
  const amplitude = track.amplitude ?? 10 ** ((track.levelDbfs ?? 0) / 20);
  if (track.type === 'noise') return xorshiftNoise(track.seed ?? 1, amplitude, samples);
  const phase = ((track.phaseDeg ?? 0) * PI) / 180;
  const out = new Float64Array(samples);
  const turn = 2 * PI * (track.frequencyHz ?? 0);
  for (let n = 0; n < samples; n++) out[n] = amplitude * sin((turn * n) / sampleRateHz + phase);
  return out;
}

/** A full-scale-free sine for tests. */
export function sine(
  frequencyHz: number,
  sampleRateHz: number,
  seconds: number,
  amplitude: number,
): Float64Array {
  return Float64Array.from(
    { length: Math.round(seconds * sampleRateHz) },
    (_, n) => amplitude * sin((2 * PI * frequencyHz * n) / sampleRateHz),
  );
}

/** Root of the mean square. */
export function rms(samples: Float64Array): number {
  return Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / samples.length);
}
