import fc from 'fast-check';
import { designBiquad, filterInPlace, responseDb } from './biquad';
import { sine } from '@/core/test/signals';
import { crossCorrelation, inverseReal, spectrumOf } from './fft';
import { resample, resampled } from './resample';
import { framesOf, soundOf } from './sound';
import { readAt } from './interpolation';
import { hash32, Random } from './random';
import { amplitudeToDb, dbToAmplitude, finiteOrNull, powerToDb, speedOfSoundMps } from './units';

const { sin, cos, PI, abs, max } = Math;
const RATE = 48000;

describe('units', () => {
  it('turn into each other', () => {
    expect(amplitudeToDb(0.5)).toBeCloseTo(-6.0206, 4);
    expect(amplitudeToDb(-0.5)).toBeCloseTo(-6.0206, 4);
    expect(powerToDb(0.5)).toBeCloseTo(-3.0103, 4);
    expect(dbToAmplitude(20)).toBe(10);
    expect(finiteOrNull(amplitudeToDb(0))).toBeNull();
    expect(speedOfSoundMps(20)).toBeCloseTo(343.4, 1);
  });
});

describe('Fourier transform', () => {
  // Four samples are the fewest that the transform by halves can take apart.
  it.each([4, 8, 16, 64])('of %i samples is the sum it stands for', (size) => {
    const samples = Float64Array.from({ length: size }, (_, n) => sin(n * n));
    const spectrum = spectrumOf(samples, size);
    expect(spectrum.length).toBe(size + 2);
    for (let k = 0; k <= size / 2; k++) {
      let [re, im] = [0, 0];
      for (let n = 0; n < size; n++) {
        re += samples[n]! * cos((2 * PI * k * n) / size);
        im -= samples[n]! * sin((2 * PI * k * n) / size);
      }
      expect(spectrum[2 * k]).toBeCloseTo(re, 10);
      expect(spectrum[2 * k + 1]).toBeCloseTo(im, 10);
    }
  });

  it('takes what is too long or too short as cut or followed by silence', () => {
    const samples = Float64Array.from({ length: 12 }, (_, n) => sin(n * n));
    expect(spectrumOf(samples, 8)).toEqual(spectrumOf(samples.slice(0, 8), 8));
    const padded = new Float64Array(16);
    padded.set(samples);
    expect(spectrumOf(samples, 16)).toEqual(spectrumOf(padded, 16));
  });

  it('turns lags into the sums of products they stand for', () => {
    const a = Float64Array.from({ length: 5 }, (_, n) => sin(3 * n + 1));
    const b = Float64Array.from({ length: 3 }, (_, n) => cos(2 * n));
    const found = crossCorrelation(a, b, 8);
    for (let lag = -4; lag <= 2; lag++) {
      let sum = 0;
      for (let n = 0; n < 5; n++) sum += a[n]! * (b[n + lag] ?? 0);
      expect(found[(lag + 8) % 8]).toBeCloseTo(sum, 10);
    }
  });

  it('comes back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 3, maxLength: 64 }),
        (x) => {
          const back = inverseReal(spectrumOf(Float64Array.from(x), 64));
          x.forEach((value, n) => expect(back[n]).toBeCloseTo(value, 10));
        },
      ),
      { numRuns: 30 },
    );
  });
});

describe('reading between samples', () => {
  const tone = (hz: number, delay: number) =>
    Float64Array.from({ length: 2000 }, (_, n) => sin((2 * PI * hz * (n - delay)) / RATE));

  it.each([100, 1000, 8000, 16000, 20000])('is exact within 0.02 dB at %i Hz', (hz) => {
    for (const delay of [0.1, 0.37, 0.5, 0.93]) {
      const got = readAt(tone(hz, 0), 500 - delay, 600);
      const want = tone(hz, delay);
      let worst = 0;
      for (let n = 0; n < 600; n++) worst = max(worst, abs(got[n]! - want[500 + n]!));
      expect(worst).toBeLessThan(0.0023);
    }
  });

  it('is plain copying at whole positions, and silence outside', () => {
    const samples = Float64Array.from([1, 2, 3, 4]);
    expect([...readAt(samples, 1, 2)]).toEqual([2, 3]);
    expect([...readAt(samples, -2, 4)]).toEqual([0, 0, 1, 2]);
    expect([...readAt(samples, 3, 3)]).toEqual([4, 0, 0]);
  });

  it('gives the same whatever the length that is read', () => {
    const samples = Float64Array.from({ length: 400 }, (_, n) => sin(n * 1.1));
    const whole = readAt(samples, -30.3, 460);
    for (const [at, length] of [
      [0, 5],
      [17, 50],
      [20, 331],
      [400, 60],
    ]) {
      const part = readAt(samples, -30.3 + at!, length!);
      part.forEach((value, n) => expect(value).toBeCloseTo(whole[at! + n]!, 12));
    }
  });
});

describe('second-order sections', () => {
  it.each([
    ['lowpass', 1000, 0.7071, 0, 1000, -3.01],
    ['highpass', 200, 0.7071, 0, 200, -3.01],
    ['bell', 3000, 1, 4.5, 3000, 4.5],
    ['lowshelf', 300, 0.7071, -6, 20, -6],
    ['highshelf', 4000, 0.7071, 5, 20000, 5],
    ['highshelf', 4000, 0.7071, 5, 4000, 2.5],
    ['bandpass', 500, 2, 0, 500, 0],
  ] as const)('%s at %i Hz', (shape, hz, q, gain, at, want) => {
    const section = designBiquad(shape, hz, RATE, q, gain);
    expect(responseDb([section], at, RATE)).toBeCloseTo(want, 1);
  });

  it('do to a tone what their response says', () => {
    const section = designBiquad('bell', 2000, RATE, 1.4, -7);
    const tone = Float64Array.from({ length: RATE }, (_, n) => sin((2 * PI * 1500 * n) / RATE));
    filterInPlace(tone, [section]);
    const peak = tone.subarray(RATE / 2).reduce((most, x) => max(most, abs(x)), 0);
    expect(amplitudeToDb(peak)).toBeCloseTo(responseDb([section], 1500, RATE), 2);
  });
});

describe('random numbers', () => {
  it('come again from the same seed, and are others from another', () => {
    const draw = (seed: number) => {
      const random = new Random(seed);
      return Array.from({ length: 8 }, () => random.uniform());
    };
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
    // Seeds that differ only beyond 32 bits are different seeds.
    expect(draw(7)).not.toEqual(draw(7 + 2 ** 40));
    expect(Random.derived(1, 'a').uniform()).not.toBe(Random.derived(1, 'b').uniform());
  });

  it('have the moments of their distributions', () => {
    const random = new Random(3);
    const count = 40000;
    const moments = (draw: () => number) => {
      let [sum, squares] = [0, 0];
      for (let i = 0; i < count; i++) {
        const x = draw();
        sum += x;
        squares += x * x;
      }
      return [sum / count, squares / count - (sum / count) ** 2];
    };
    const close = ([mean, variance]: number[], wantMean: number, wantVariance: number) => {
      expect(abs(mean! - wantMean)).toBeLessThan(0.02);
      expect(abs(variance! - wantVariance)).toBeLessThan(0.03);
    };
    close(
      moments(() => random.uniform()),
      0.5,
      1 / 12,
    );
    close(
      moments(() => random.normal()),
      0,
      1,
    );
    close(
      moments(() => random.triangular()),
      0,
      1 / 6,
    );
    close(
      moments(() => random.below(4)),
      1.5,
      1.25,
    );
  });

  it('shuffle every order equally often', () => {
    const random = new Random(5);
    const counts = new Map<string, number>();
    for (let i = 0; i < 6000; i++) {
      const order = random.shuffled(['a', 'b', 'c']).join('');
      counts.set(order, (counts.get(order) ?? 0) + 1);
    }
    expect(counts.size).toBe(6);
    for (const count of counts.values()) expect(abs(count - 1000)).toBeLessThan(120);
  });

  it('hash texts far apart', () => {
    const hashes = Array.from({ length: 2000 }, (_, i) => hash32(`listener ${i}`));
    expect(new Set(hashes).size).toBe(2000);
  });
});

describe('resampling', () => {
  const worst = (a: Float64Array, b: Float64Array, from: number, to: number) => {
    let most = 0;
    for (let n = from; n < to; n++) most = Math.max(most, Math.abs(a[n]! - b[n]!));
    return most;
  };

  it.each([
    [44100, 48000],
    [48000, 44100],
    [96000, 48000],
    [44100, 96000],
    [192000, 44100],
  ])('from %i to %i Hz keeps a tone in time, level and shape', (from, to) => {
    const made = resample(sine(997, from, 0.5, 0.5), from, to);
    const wanted = sine(997, to, 0.5, 0.5);
    expect(made.length).toBe(wanted.length);
    // -90 dB of the tone.
    expect(worst(made, wanted, 1000, made.length - 1000)).toBeLessThan(0.5 * 10 ** (-90 / 20));
  });

  it('takes away what the lower rate cannot hold, and keeps what it can', () => {
    const high = resample(sine(26_000, 96000, 0.5, 0.5), 96000, 48000);
    expect(worst(high, new Float64Array(high.length), 1000, high.length - 1000)).toBeLessThan(
      0.5 * 10 ** (-80 / 20),
    );
    const kept = resample(sine(19_000, 96000, 0.5, 0.5), 96000, 44100);
    expect(worst(kept, sine(19_000, 44100, 0.5, 0.5), 1000, kept.length - 1000)).toBeLessThan(
      0.001,
    );
  });

  it('reads the same in any stretches, and nothing outside', () => {
    const samples = sine(300, 44100, 0.2, 0.5);
    const whole = resample(samples, 44100, 48000);
    const sound = resampled(soundOf([samples]), 44100, 48000);
    expect(sound.frames).toBe(whole.length);
    for (const [from, length] of [
      [-50, 120],
      [5000, 777],
      [whole.length - 30, 90],
    ] as const) {
      const [read] = framesOf(sound, from, length);
      read!.forEach((x, n) => expect(x).toBeCloseTo(whole[from + n] ?? 0, 12));
    }
  });

  it('leaves a constant and an equal rate alone, and refuses what is no rate', () => {
    const flat = resample(new Float64Array(5000).fill(0.25), 44100, 48000);
    expect(flat[2500]).toBeCloseTo(0.25, 6);
    const same = new Float64Array(4);
    expect(resample(same, 48000, 48000)).toBe(same);
    expect(() => resample(same, 0, 48000)).toThrow(RangeError);
  });
});
