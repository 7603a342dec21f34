import { responseDb } from '@/core/signal/biquad';
import { conformanceJson, makeSignal, sine, type SignalCase } from '@/core/test/signals';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import type { WavFormat } from '@/core/wav/format';
import { Meter, measure, type Measurement } from './meter';
import { kWeighting } from './weighting';

function format(sampleRateHz: number, channels = 1): WavFormat {
  return { sampleRateHz, channels, bitDepth: 24, encoding: 'pcm', channelMask: 0 };
}

function field(measured: Measurement, name: string): number | null {
  const dc = /^dcOffset\[(\d)\]$/.exec(name);
  if (dc) return measured.dcOffset[Number(dc[1])]!;
  return measured[name as Exclude<keyof Measurement, 'dcOffset'>];
}

describe('conformance set', () => {
  const { cases } = conformanceJson<{ cases: SignalCase[] }>('audio/cases.json');

  it.each(cases.map((c) => [c.id, c] as const))('%s', async (_, signal) => {
    const depth = signal.store === 'pcm16' ? 16 : signal.store === 'float32' ? '32f' : 24;
    const { header, channels } = await decodeWav(
      encodeWav(makeSignal(signal), signal.sampleRateHz, depth),
    );
    const measured = measure(channels, header.format);
    for (const { field: name, value, plus, minus } of signal.expect) {
      const got = field(measured, name);
      if (value === null) {
        expect({ name, got }).toEqual({ name, got: null });
      } else {
        expect(got).not.toBeNull();
        expect(got as number).toBeGreaterThanOrEqual(value - minus);
        expect(got as number).toBeLessThanOrEqual(value + plus);
      }
    }
  });
});

describe('weighting', () => {
  const reference = conformanceJson<{
    stage1: { b: number[]; a: number[] };
    stage2: { b: number[]; a: number[] };
    response48k: { frequencyHz: number[]; gainDb: number[] };
  }>('audio/kweighting.json');

  it('is the table of BS.1770 at 48 kHz', () => {
    const [shelf, highpass] = kWeighting(48000);
    const close = (got: number[], want: number[]) =>
      got.forEach((value, i) => expect(value).toBeCloseTo(want[i]!, 12));
    close([shelf.b0, shelf.b1, shelf.b2], reference.stage1.b);
    close([1, shelf.a1, shelf.a2], reference.stage1.a);
    close([highpass.b0, highpass.b1, highpass.b2], reference.stage2.b);
    close([1, highpass.a1, highpass.a2], reference.stage2.a);
  });

  it.each([44100, 88200, 96000, 192000])('has the same response at %i Hz', (rate) => {
    reference.response48k.frequencyHz.forEach((frequency, i) => {
      const got = responseDb(kWeighting(rate), frequency, rate);
      expect(Math.abs(got - reference.response48k.gainDb[i]!)).toBeLessThan(0.02);
    });
  });
});

describe('any rate from 8 to 192 kHz', () => {
  it.each([8000, 11025, 16000, 22050, 32000, 64000, 176400])(
    'reads a full-scale 997 Hz sine as -3.01 at %i Hz',
    (rate) => {
      const measured = measure([sine(997, rate, 4, 1)], format(rate));
      expect(measured.integratedLufs).toBeCloseTo(-3.01, 1);
      expect(measured.shortTermMaxLufs).toBeCloseTo(-3.01, 1);
    },
  );

  it('refuses others', () => {
    expect(() => new Meter(format(4000))).toThrow('8000 to 192000');
  });
});

it('gives the same numbers whatever the block size', () => {
  const signal = sine(440, 44100, 3.7, 0.5).map((x, n) => x * (1 + 0.5 * Math.sin(n / 9000)));
  const whole = measure([signal], format(44100));
  const meter = new Meter(format(44100));
  for (let at = 0; at < signal.length; at += 997) meter.push([signal.subarray(at, at + 997)]);
  const parts = meter.finish();
  expect(parts.integratedLufs).toBeCloseTo(whole.integratedLufs as number, 10);
  expect(parts.truePeakDbtp).toBeCloseTo(whole.truePeakDbtp as number, 10);
  expect(parts.loudnessRangeLu).toBeCloseTo(whole.loudnessRangeLu as number, 10);
});

it('measures channels by themselves, whichever stand together', () => {
  const [a, b, c] = [0.5, 0.2, 0.05].map((peak, i) =>
    sine(300 + 700 * i, 48000, 2.5, peak).map((x, n) => x * (1 + 0.4 * Math.sin(n / (5000 + i)))),
  ) as [Float64Array, Float64Array, Float64Array];
  const loudness = (...channels: Float64Array[]) =>
    measure(channels, format(48000, channels.length)).integratedLufs as number;
  const alone = loudness(a);
  const silent = new Float64Array(a.length);
  expect(loudness(a, silent)).toBeCloseTo(alone, 10);
  expect(loudness(silent, a)).toBeCloseTo(alone, 10);
  // Two of the three are worked out together, the last by itself.
  const all = loudness(a, b, c);
  expect(loudness(b, c, a)).toBeCloseTo(all, 10);
  expect(loudness(c, a, b)).toBeCloseTo(all, 10);
  // Equal in both, it is twice the power.
  expect(loudness(a, a)).toBeCloseTo(alone + 10 * Math.log10(2), 10);
});
