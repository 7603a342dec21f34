import { type RelativeCase, relativeFile } from '@/core/test/relative';
import { conformanceJson, sine, xorshiftNoise } from '@/core/test/signals';
import { soundOf } from '@/core/signal/sound';
import { SIXTH_OCTAVES, THIRD_OCTAVES } from './bands';
import { averagedSpectra, bandLevels, spectraOfAll } from './spectra';
import { relativeTransfer } from './transfer';

it('knows the bands: thirds and sixths meet edge to edge', () => {
  expect(THIRD_OCTAVES.length).toBe(30);
  expect(THIRD_OCTAVES.find(({ centerHz }) => centerHz === 1000)?.fromHz).toBeCloseTo(891.25, 2);
  expect(SIXTH_OCTAVES.length).toBe(60);
  for (const bands of [THIRD_OCTAVES, SIXTH_OCTAVES]) {
    bands.slice(1).forEach(({ fromHz }, i) => expect(fromHz / bands[i]!.toHz).toBeCloseTo(1, 9));
  }
});

describe('band levels', () => {
  it('put a sine into its band at its mean square', () => {
    const levels = bandLevels([sine(1000, 48000, 4, 0.5)], 48000, THIRD_OCTAVES);
    const at = (hz: number) =>
      levels[THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === hz)] ?? -Infinity;
    expect(at(1000)).toBeCloseTo(-9.03, 2);
    expect(at(500)).toBeLessThan(-100);
  });

  it('rise by 3 dB an octave for white noise, and give its power in all', () => {
    const noise = xorshiftNoise(3, 0.5, 48000 * 20);
    const levels = bandLevels([noise], 48000, THIRD_OCTAVES);
    const at = (hz: number) =>
      levels[THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === hz)] ?? 0;
    expect(at(8000) - at(1000)).toBeCloseTo(9.0, 0);
    // Uniform in ±0.5: mean square 1/12, of which a third around 1 kHz holds 230.8 of 24000 Hz.
    expect(at(1000)).toBeCloseTo(10 * Math.log10((230.77 / 24000) * (0.25 / 3)), 0);
  });

  it('have nothing above half the sample rate, and nothing for silence', () => {
    const levels = bandLevels([new Float64Array(16000)], 8000, THIRD_OCTAVES);
    expect(levels.every((level) => level === null)).toBe(true);
    expect(bandLevels([new Float64Array(10)], 48000, THIRD_OCTAVES)[0]).toBeNull();
  });
});

describe('conformance set', () => {
  const { cases } = conformanceJson<{ cases: RelativeCase[] }>('audio/relative.json');

  it.each(cases.map((c) => [c.id, c] as const))('%s', (_, c) => {
    const reference = relativeFile(c, c.files[0]!);
    for (const want of c.expect) {
      const file = c.files.find(({ name }) => name === want.file);
      if (!file) throw new Error(want.file);
      const found = relativeTransfer([reference], [relativeFile(c, file)], c.sampleRateHz);
      expect(found.polarityInverted).toBe(want.polarityInverted);
      if (want.delaySamples !== undefined) {
        expect(Math.abs(found.delaySamples - want.delaySamples)).toBeLessThan(
          want.delayTolerance ?? 0,
        );
      }
      if (want.broadbandDb !== undefined) {
        expect(Math.abs((found.broadbandDb ?? 99) - want.broadbandDb)).toBeLessThan(
          want.broadbandTolerance ?? 0,
        );
      }
      for (const band of want.bands ?? []) {
        const got = found.bands.find(({ centerHz }) => centerHz === band.centerHz);
        const error = Math.abs((got?.differenceDb ?? 99) - band.differenceDb);
        expect({
          band: band.centerHz,
          near: error < (band.tolerance ?? want.bandTolerance),
          error,
        }).toMatchObject({ near: true });
        expect(got?.coherence).toBeGreaterThan(0.9);
      }
    }
  });
});

it('tells by coherence where another sound covers the reference', () => {
  const noise = xorshiftNoise(5, 0.2, 48000 * 8);
  const hum = sine(125, 48000, 8, 0.5);
  const found = relativeTransfer([noise], [noise.map((x, n) => 0.5 * x + hum[n]!)], 48000);
  const at = (hz: number) => found.bands.find(({ centerHz }) => centerHz === hz)?.coherence ?? 1;
  expect(at(125)).toBeLessThan(0.1);
  expect(at(1000)).toBeGreaterThan(0.9);
});

it('says of several others at once what it says of each alone', () => {
  const sounds = [1, 2, 3, 4].map((seed) => [
    xorshiftNoise(seed, 0.1 * seed, 48000),
    xorshiftNoise(10 + seed, 0.2, 48000),
  ]);
  const [reference, ...others] = sounds;
  const together = spectraOfAll(soundOf(reference!), others.map(soundOf), 48000);
  expect(together.length).toBe(3);
  others.forEach((other, i) => {
    const alone = averagedSpectra(reference!, other, 48000);
    for (const part of ['xx', 'yy', 're', 'im'] as const) {
      const scale = alone.xx.reduce((most, x) => Math.max(most, x), 0);
      const far = alone[part].map((x, k) => Math.abs(x - together[i]![part][k]!) / scale);
      expect(Math.max(...far)).toBeLessThan(1e-12);
    }
    // Their sum is the mean square (Parseval), channels averaged; within what the window leaves out.
    const power = other.flatMap((samples) => [...samples]).reduce((sum, x) => sum + x * x, 0);
    const sum = together[i]!.yy.reduce((a, b) => a + b, 0);
    expect(Math.abs(sum / (power / (2 * 48000)) - 1)).toBeLessThan(0.05);
  });
});
