import { passed } from '@/core/test/passed';
import { rms, sine } from '@/core/test/signals';
import { dbToAmplitude } from '@/core/signal/units';
import { WORKING_LUFS } from './dynamics';
import { saturated, saturation, type SaturationSettings } from './saturation';

const RATE = 48000;
const { PI, abs, cos, hypot, log10, sin } = Math;

/** Amplitude of a frequency in the settled second half, by projection over whole periods. */
function amplitudeAt(samples: Float64Array, hz: number): number {
  const from = samples.length / 2;
  let [re, im] = [0, 0];
  for (let n = from; n < samples.length; n++) {
    re += samples[n]! * cos((2 * PI * hz * n) / RATE);
    im += samples[n]! * sin((2 * PI * hz * n) / RATE);
  }
  return (2 * hypot(re, im)) / (samples.length - from);
}

/** Amplitude of the k-th harmonic of a sine through a curve, by numerical integration of its Fourier integral. */
function harmonic(bent: (u: number) => number, amplitude: number, k: number): number {
  const steps = 20_000;
  let [re, im] = [0, 0];
  for (let i = 0; i < steps; i++) {
    const t = (2 * PI * (i + 0.5)) / steps;
    const y = bent(amplitude * sin(t));
    re += y * cos(k * t);
    im += y * sin(k * t);
  }
  return (2 * hypot(re, im)) / steps;
}

/** A sine that reaches `reach` in units of the bend, through the stage. */
function through(hz: number, reach: number, settings: SaturationSettings) {
  const unit = 1 / dbToAmplitude(settings.driveDb - WORKING_LUFS);
  const out = passed([sine(hz, RATE, 2, reach * unit)], [saturation(1, RATE, settings)])[0]!;
  return { out, unit };
}

it.each([
  ['symmetric', 0.5],
  ['symmetric', 2],
  ['asymmetric', 0.5],
  ['asymmetric', 2],
] as const)('%s, a sine up to %f of the bend: its first five harmonics', (curve, reach) => {
  const { out, unit } = through(1000, reach, { driveDb: -6, curve });
  // The same curves, written anew.
  const bent = (u: number) =>
    curve === 'symmetric'
      ? Math.tanh(u)
      : (Math.tanh(u + 0.4) - Math.tanh(0.4)) / (1 - Math.tanh(0.4) ** 2);
  for (let k = 1; k <= 5; k++) {
    expect(abs(amplitudeAt(out, 1000 * k) / unit - harmonic(bent, reach, k))).toBeLessThan(2e-4);
  }
  expect(abs(out.reduce((sum, x) => sum + x, 0) / out.length / unit)).toBeLessThan(2e-3);
});

it('harmonics beyond the band do not fold back into it', () => {
  const { out } = through(11_000, 2, { driveDb: 0, curve: 'symmetric' });
  // The third, at 33 kHz, would be heard at 15; the fifth, at 55, at 7.
  for (const folded of [15_000, 7000]) {
    const against = 20 * log10(amplitudeAt(out, folded) / amplitudeAt(out, 11_000));
    expect(against).toBeLessThan(-75);
  }
});

it('what stays far below the bend stays as it is, in level and in time', () => {
  const tone = sine(3000, RATE, 1, 1e-4);
  const [out] = passed([tone], [saturation(1, RATE, { driveDb: -30, curve: 'symmetric' })]);
  const rest = out!.map((x, n) => x - tone[n]!).subarray(2000, RATE - 2000);
  expect(rms(rest) / rms(tone)).toBeLessThan(1e-3);
});

it('each channel is bent by itself', () => {
  const [left, right] = [sine(500, RATE, 1, 0.5), sine(700, RATE, 1, 0.05)];
  const settings = { driveDb: 0, curve: 'asymmetric' } as const;
  const both = passed([left, right], [saturation(2, RATE, settings)]);
  const [alone] = passed([right], [saturation(1, RATE, settings)]);
  expect(both[1]).toEqual(alone);
});

it('its slope through nothing is 1, whichever the curve', () => {
  for (const curve of ['symmetric', 'asymmetric'] as const) {
    expect(saturated(0, curve)).toBe(0);
    expect((saturated(1e-5, curve) - saturated(-1e-5, curve)) / 2e-5).toBeCloseTo(1, 8);
  }
});
