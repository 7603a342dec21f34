import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { readAt } from '@/core/signal/interpolation';
import { xorshiftNoise } from '@/core/test/signals';
import { compareTwo, residualOf } from './compare-two';

const RATE = 48000;
const FRAMES = RATE * 8;

/** Noise without what lies over half the band, where no delay between samples is exact. */
function music(seed: number): Float64Array {
  return filterInPlace(xorshiftNoise(seed, 0.3, FRAMES), [
    designBiquad('lowpass', 9000, RATE, 0.54),
    designBiquad('lowpass', 9000, RATE, 1.31),
  ]);
}

const reference = music(5);

describe('two recordings of one performance', () => {
  it('leave nothing when one is the other, later, quieter and upside down', () => {
    const other = readAt(reference, -37.4, FRAMES).map((x) => -0.5 * x);
    const found = compareTwo([reference], [other], RATE);
    expect(found).toMatchObject({ samePerformance: true, polarityInverted: true });
    expect(found.delaySamples).toBeCloseTo(37.4, 1);
    expect(found.levelDb).toBeCloseTo(-6.02, 2);
    expect(found.nullDb).toBeLessThan(-40);
    const at1k = found.bands.find(({ centerHz }) => centerHz === 1000);
    expect(at1k?.differenceDb).toBeCloseTo(-6.02, 1);
    expect(found.width).toBeNull();
  });

  it('leave what does not follow: noise 20 dB under the other is a null of -20 dB', () => {
    const noise = xorshiftNoise(99, 1, FRAMES);
    const power = (x: Float64Array) => x.reduce((sum, s) => sum + s * s, 0);
    const gain = Math.sqrt(power(reference) / power(noise)) / 10;
    const other = reference.map((x, n) => x + gain * noise[n]!);
    // Of the other's power 0.01 / 1.01 is noise.
    expect(compareTwo([reference], [other], RATE).nullDb).toBeCloseTo(-20.04, 1);
  });

  it('leave what a filter does: of white noise a known share', () => {
    const white = xorshiftNoise(7, 0.5, FRAMES);
    const other = white.map((x, n) => x + 0.1 * ((white[n - 1] ?? 0) + (white[n + 1] ?? 0)));
    // y = x + a(x₋ + x₊): the best gain is 1, and 2a² of 1 + 2a² is left.
    const { nullDb, gain, channels } = residualOf([white], [other], { delaySamples: 0 });
    expect(gain).toBeCloseTo(1, 2);
    expect(nullDb).toBeCloseTo(10 * Math.log10(0.02 / 1.02), 1);
    expect(channels[0]![1000]).toBeCloseTo(0.1 * (white[999]! + white[1001]!), 2);
  });

  it('tell tilt in numbers, the level kept', () => {
    const darker = filterInPlace(Float64Array.from(reference), [
      designBiquad('highshelf', 2800, RATE, 0.7, -6),
    ]);
    const { highTiltDb, lowTiltDb } = compareTwo([reference], [darker], RATE);
    expect(highTiltDb).toBeLessThan(-4.5);
    expect(highTiltDb).toBeGreaterThan(-6.5);
    expect(Math.abs(lowTiltDb ?? 9)).toBeLessThan(0.5);
  });

  it('tell width: side over middle', () => {
    const side = music(11);
    const stereo = (share: number) => [
      reference.map((x, n) => x + share * side[n]!),
      reference.map((x, n) => x - share * side[n]!),
    ];
    const { width } = compareTwo(stereo(0.5), stereo(0.25), RATE);
    expect(width?.referenceDb).toBeCloseTo(-6, 0);
    expect((width?.otherDb ?? 0) - (width?.referenceDb ?? 0)).toBeCloseTo(-6.02, 1);
  });
});

describe('what cannot be subtracted', () => {
  it('two performances have average spectra alone', () => {
    const found = compareTwo([reference], [music(77).map((x) => 2 * x)], RATE);
    expect(found).toMatchObject({ samePerformance: false, nullDb: null });
    expect(found.levelDb).toBeCloseTo(6.02, 1);
    const at1k = found.bands.find(({ centerHz }) => centerHz === 1000);
    expect(at1k?.coherence).toBe(0);
    expect(at1k?.differenceDb).toBeCloseTo(6, 0);
  });

  it('silence has no level', () => {
    const found = compareTwo([reference], [new Float64Array(FRAMES)], RATE);
    expect(found).toMatchObject({ samePerformance: false, levelDb: null, nullDb: null });
    expect(found.bands.every(({ differenceDb }) => differenceDb === null)).toBe(true);
  });
});
