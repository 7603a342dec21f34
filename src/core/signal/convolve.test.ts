import { xorshiftNoise } from '@/core/test/signals';
import { convolve } from './convolve';

it.each([3, 96, 5000])('is the sum over %i taps, written out', (count) => {
  const samples = xorshiftNoise(1, 0.5, 9000);
  const taps = xorshiftNoise(2, 0.1, count);
  const latency = count >> 1;
  const out = convolve(samples, taps, latency);
  for (let n = 0; n < samples.length; n += 331) {
    let sum = 0;
    for (let k = 0; k < count; k++) sum += taps[k] * (samples[n + latency - k] ?? 0);
    expect(out[n]).toBeCloseTo(sum, 9);
  }
  expect(out.length).toBe(samples.length);
});
