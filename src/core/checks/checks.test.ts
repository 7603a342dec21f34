import { guessChain } from './guess-chain';
import { Random } from '@/core/signal/random';
import { sine } from '@/core/test/signals';
import { FeatureCollector, type TakeFeatures } from './features';
import type { ProgrammeId } from './programme';
import type { TakeFacts } from './take/check';
import { checkTake } from './take-checks';

const good: TakeFacts = {
  sampleRateHz: 48000,
  channels: 1,
  bitDepth: 24,
  durationS: 30,
  measurement: {
    integratedLufs: -24,
    momentaryMaxLufs: -18,
    shortTermMaxLufs: -20,
    loudnessRangeLu: 8,
    truePeakDbtp: -8,
    samplePeakDbfs: -8.2,
    rmsDbfs: -25,
    dcOffset: [0],
    clippedSamples: 0,
  },
};
const names = (take: TakeFacts, set = [good, good, take]) =>
  checkTake(take, set).map(({ check }) => check);
const measured = (change: Partial<TakeFacts['measurement']>): TakeFacts => ({
  ...good,
  measurement: { ...good.measurement, ...change },
});

describe('take checks', () => {
  it('have nothing to say about a good take', () => expect(names(good)).toEqual([]));

  it('find each fault, and only that', () => {
    expect(names(measured({ clippedSamples: 3 }))).toEqual(['clipped']);
    expect(names(measured({ integratedLufs: null, samplePeakDbfs: null }))).toEqual(['silent']);
    expect(names(measured({ integratedLufs: -66 }))).toEqual(['silent']);
    expect(names({ ...good, durationS: 1.9 })).toEqual(['too short']);
    expect(names({ ...good, sampleRateHz: 44100 })).toEqual(['wrong rate']);
    expect(names({ ...good, channels: 2 })).toEqual(['wrong channels']);
    expect(names({ ...good, bitDepth: 16 })).toEqual(['wrong depth']);
    expect(names(measured({ truePeakDbtp: -0.2 }))).toEqual(['high peak']);
    expect(names(measured({ rmsDbfs: -38 }))).toEqual(['off level']);
    expect(names(measured({ dcOffset: [0.004] }))).toEqual(['offset']);
  });

  it('say it in a plain sentence', () => {
    const remark = checkTake(measured({ clippedSamples: 1 }), [good])[0]!;
    expect(remark.text).toBe(
      '1 sample is at full scale: the take is clipped. Record it again with less gain.',
    );
  });
});

describe('guessing the chain from a file name', () => {
  const chains = ['Kern 40 › Linie 2', 'Kern 40 › Tarn 1', 'Ostra R1 › Linie 2', 'Grün'];

  it.each([
    ['kern40_linie2_take1.wav', 0],
    ['Kern 40 - Tarn 1 (quiet verse).wav', 1],
    ['contralto_OstraR1_Linie2.wav', 2],
    ['GRÜN 🎤.wav', 3],
    ['Gru\u0308n.wav', 3],
    ['kern40.wav', null],
    ['untitled.wav', null],
  ])('%s', (file, want) => expect(guessChain(file, chains)).toBe(want));
});

describe('features', () => {
  const RATE = 48000;
  const random = new Random(4);
  /** Noise that swells and falls, over a quiet floor: sound without a fault. */
  const sound = (seconds: number, rate = RATE) => {
    let low = 0;
    return Float64Array.from({ length: seconds * rate }, (_, n) => {
      low = 0.7 * low + 0.3 * random.normal();
      const swell = Math.max(0.003, Math.sin((2 * Math.PI * n) / (4 * rate)) ** 3);
      return 0.2 * swell * low + 2e-5 * random.normal();
    });
  };
  const collect = (samples: Float64Array, rate = RATE): TakeFeatures => {
    const collector = new FeatureCollector(rate, samples.length);
    for (let at = 0; at < samples.length; at += 10_000)
      collector.push([samples.subarray(at, at + 10_000)]);
    return collector.finish();
  };
  const said = (samples: Float64Array) => names({ ...good, features: collect(samples) });

  it('find nothing in sound without a fault, in silence, and in next to nothing', () => {
    expect(collect(sound(12))).toMatchObject({
      hum: null,
      dropouts: { count: 0 },
      cutoffHz: null,
      toneDbfs: null,
    });
    expect(said(sound(12))).toEqual([]);
    expect(collect(new Float64Array(RATE * 3))).toMatchObject({
      hum: null,
      cutoffHz: null,
      nearPeakShare: 0,
    });
    expect(collect(new Float64Array(5)).dropouts.count).toBe(0);
  });

  it.each([50, 60] as const)('hear hum at %i Hz and its multiples, at its level', (hz) => {
    const samples = sound(12);
    // -60 dBFS as a peak is -63.01 as mean square; the second harmonic adds 0.97 dB.
    const [first, second] = [sine(hz, RATE, 12, 0.001), sine(2 * hz, RATE, 12, 0.0005)];
    const { hum } = collect(samples.map((x, n) => x + first[n]! + second[n]!));
    expect(hum?.hz).toBe(hz);
    expect(Math.abs((hum?.levelDbfs ?? 0) + 62.04)).toBeLessThan(2);
    expect(said(samples.map((x, n) => x + first[n]! + second[n]!))).toEqual(['hum']);
  });

  it('find where samples were lost, and pass over pauses', () => {
    const samples = sine(440, RATE, 6, 0.3);
    samples.fill(0, 3 * RATE, 3 * RATE + 480);
    samples.fill(samples[4 * RATE]!, 4 * RATE, 4 * RATE + 200);
    const { dropouts } = collect(samples);
    expect(dropouts.count).toBe(2);
    expect(dropouts.firstS).toBeCloseTo(3, 2);
    expect(dropouts.longestS).toBeCloseTo(0.01, 3);
    const paused = sine(440, RATE, 6, 0.3);
    paused.fill(0, 2 * RATE, 4 * RATE);
    expect(collect(paused).dropouts.count).toBe(0);
  });

  it('take silence between words for what it is, where sound fades into it', () => {
    const spoken = sine(440, RATE, 6, 0.3);
    const gap = (fromS: number, fadeS: number) => {
      const [from, fade, length] = [fromS, fadeS, 0.1].map((s) => Math.round(s * RATE)) as [
        number,
        number,
        number,
      ];
      for (let n = 0; n < fade; n++) {
        spoken[from - 1 - n]! *= n / fade;
        spoken[from + length + n]! *= n / fade;
      }
      spoken.fill(0, from, from + length);
    };
    gap(1.0007, 0.01);
    gap(2.0007, 0.02);
    gap(3.0007, 0.005);
    expect(collect(spoken).dropouts.count).toBe(0);
    // Broken off on one side is broken off.
    gap(4.0007, 0);
    spoken.fill(0, 5 * RATE, 5 * RATE + 4800);
    expect(collect(spoken).dropouts.count).toBe(2);
  });

  it('let a backing track rest, and nothing else', () => {
    const rests = { ...good, measurement: { ...good.measurement, integratedLufs: null } };
    const of = (programme: ProgrammeId) =>
      checkTake(rests, [good], programme).map(({ check }) => check);
    expect(of('performance')).toContain('silent');
    expect(of('backing')).not.toContain('silent');
  });

  it('see peaks that stop at one height', () => {
    const limited = sound(12).map((x) => Math.max(-0.08, Math.min(0.08, x)));
    expect(said(limited)).toEqual(['limited']);
  });

  it('see a spectrum that ends at once', () => {
    // Brick wall at 12 kHz: sound of half the rate, doubled by zeros and an ideal filter in effect.
    const half = sound(12, RATE / 2);
    const doubled = new Float64Array(2 * half.length);
    for (let n = 0; n < half.length - 1; n++) {
      doubled[2 * n] = half[n]!;
    }
    const taps = 255;
    const middle = (taps - 1) / 2;
    const filter = Float64Array.from({ length: taps }, (_, k) => {
      const t = k - middle;
      const hann = 0.5 + 0.5 * Math.cos((Math.PI * t) / middle);
      return hann * (t === 0 ? 1 : Math.sin((Math.PI * t) / 2) / ((Math.PI * t) / 2));
    });
    const out = new Float64Array(RATE * 8);
    for (let n = taps; n < out.length; n++) {
      let sum = 0;
      for (let k = 0; k < taps; k++) sum += filter[k]! * doubled[n - k]!;
      out[n] = sum;
    }
    const { cutoffHz } = collect(out);
    expect(Math.abs((cutoffHz ?? 0) - 12_000)).toBeLessThan(700);
    expect(said(out)).toEqual(['lossy']);
  });

  it('find a printed tone, which is no limiter', () => {
    const samples = sound(12);
    samples.set(sine(1000, RATE, 3, 0.1), 0);
    expect(collect(samples).toneDbfs).toBeCloseTo(-23.01, 1);
    expect(said(samples)).toEqual(['tone present']);
  });
});
