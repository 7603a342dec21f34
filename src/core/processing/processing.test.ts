import { rms as rmsOf, sine, xorshiftNoise } from '@/core/test/signals';
import { passed } from '@/core/test/passed';
import { amplitudeToDb } from '@/core/signal/units';
import { compressedDb, WORKING_LUFS } from './dynamics';
import { processStages } from './process';
import { MILD_PROCESSING, NO_PROCESSING, type ProcessSettings } from './settings';

const RATE = 48000;
const processClip = (channels: Float64Array[], settings: ProcessSettings) =>
  passed(channels, processStages(channels.length, RATE, settings));
const settled = (samples: Float64Array) => samples.subarray(RATE);
const gainAt = (hz: number, settings: typeof NO_PROCESSING, amplitude = 0.01) => {
  const tone = sine(hz, RATE, 3, amplitude);
  const out = processClip([tone], settings)[0]!;
  return amplitudeToDb(rmsOf(settled(out)) / rmsOf(settled(tone)));
};

it('nothing set changes nothing', () => {
  const noise = xorshiftNoise(1, 0.3, RATE);
  const [out] = processClip([noise], NO_PROCESSING);
  expect(out).toEqual(noise);
});

it('the high-pass is a fourth-order Butterworth: -3 dB at its corner, 24 dB an octave below', () => {
  const settings = { ...NO_PROCESSING, highPassHz: 80 };
  expect(gainAt(80, settings)).toBeCloseTo(-3.01, 1);
  // 1 / sqrt(1 + (80/20)^8)
  expect(gainAt(20, settings)).toBeCloseTo(-48.16, 0);
  expect(gainAt(1000, settings)).toBeCloseTo(0, 2);
});

it('a bell lifts by what it says at its middle', () => {
  const eq = [{ shape: 'bell', hz: 2000, q: 1, db: 4 }] as const;
  expect(gainAt(2000, { ...NO_PROCESSING, eq })).toBeCloseTo(4, 2);
  expect(gainAt(60, { ...NO_PROCESSING, eq })).toBeCloseTo(0, 1);
});

describe('compressor', () => {
  it('follows its curve: straight below, ratio above, half-way in the knee', () => {
    expect(compressedDb(-40, -20, 4, 6)).toBe(-40);
    expect(compressedDb(-8, -20, 4, 6)).toBeCloseTo(-17, 9);
    // At the threshold with a 6 dB knee: (1/4 - 1)·9/12 = -0.5625
    expect(compressedDb(-20, -20, 4, 6)).toBeCloseTo(-20.5625, 9);
  });

  it('turns a steady tone down by the curve at its peaks', () => {
    const compressor = { thresholdDb: 3, ratio: 2, kneeDb: 0, attackMs: 5, releaseMs: 400 };
    const threshold = WORKING_LUFS + 3;
    const amplitude = 10 ** ((threshold + 10) / 20);
    // 10 dB over at 2:1 leaves 5; between peaks it lets go by a little.
    expect(gainAt(1000, { ...NO_PROCESSING, compressor }, amplitude)).toBeCloseTo(-5, 0);
    expect(gainAt(1000, { ...NO_PROCESSING, compressor }, amplitude / 10)).toBeCloseTo(0, 3);
  });

  it('rides both channels of a pair together', () => {
    const compressor = { thresholdDb: 0, ratio: 4, kneeDb: 0, attackMs: 5, releaseMs: 100 };
    const left = sine(500, RATE, 2, 0.5);
    const right = left.map((x) => 0.25 * x);
    const [a, b] = processClip([left, right], { ...NO_PROCESSING, compressor });
    expect(rmsOf(settled(b!)) / rmsOf(settled(a!))).toBeCloseTo(0.25, 6);
  });
});

it('the de-esser takes sibilance down by no more than it may and leaves the voice alone', () => {
  const deEsser = { fromHz: 5500, thresholdDb: -8, mostDb: 6 };
  const strong = gainAt(9000, { ...NO_PROCESSING, deEsser }, 0.5);
  expect(strong).toBeLessThan(-4.5);
  expect(strong).toBeGreaterThan(-6.2);
  expect(gainAt(400, { ...NO_PROCESSING, deEsser }, 0.5)).toBeCloseTo(0, 1);
});

it('the mild start is mild: no band moves by more than 6 dB on quiet sound over 150 Hz', () => {
  for (const hz of [150, 350, 1000, 3000, 12000]) {
    expect(Math.abs(gainAt(hz, MILD_PROCESSING, 0.005))).toBeLessThan(6);
  }
});

it('the de-esser’s bands lie on each other: at its strongest a loud tone well below stays as it is', () => {
  const deEsser = { fromHz: 5500, thresholdDb: -60, mostDb: 24 };
  expect(gainAt(2500, { ...NO_PROCESSING, deEsser }, 0.5)).toBeCloseTo(0, 2);
});
