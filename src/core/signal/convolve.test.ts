import { xorshiftNoise } from '@/core/test/signals';
import { convolver } from './convolve';
import { passed } from '@/core/test/passed';

it.each([3, 96, 5000])('is the sum over %i taps, written out', (count) => {
  const samples = xorshiftNoise(1, 0.5, 9000);
  const taps = xorshiftNoise(2, 0.1, count);
  const latency = count >> 1;
  const out = passed([samples], [convolver(1, taps, latency)])[0]!;
  for (let n = 0; n < samples.length; n += 331) {
    let sum = 0;
    for (let k = 0; k < count; k++) sum += taps[k]! * (samples[n + latency - k] ?? 0);
    expect(out[n]).toBeCloseTo(sum, 9);
  }
  expect(out.length).toBe(samples.length);
});

it.each([
  [96, 48, [1, 7, 500, 8192, 3, 1697]],
  [3000, 0, [8192, 8192, 1, 4000]],
])('%i taps give the same in blocks of any length, for both channels', (count, middle, lengths) => {
  const total = lengths.reduce((a, b) => a + b);
  const taps = xorshiftNoise(3, 0.1, count);
  const sounds = [xorshiftNoise(4, 0.5, total), xorshiftNoise(5, 0.5, total)];
  const stage = convolver(2, taps, middle);
  const heard: number[][] = [[], []];
  // Silence after the end, until all that was late has come.
  const fed = sounds.map((samples) => [...samples, ...new Float64Array(stage.latency)]);
  let at = 0;
  for (const length of [...lengths, ...new Array<number>(20).fill(8192)]) {
    const block = fed.map((samples) => Float64Array.from(samples.slice(at, at + length)));
    stage.run(block);
    block.forEach((samples, c) => heard[c]!.push(...samples));
    at += length;
  }
  sounds.forEach((samples, c) => {
    const alone = passed([samples], [convolver(1, taps, middle)])[0]!;
    const late = Float64Array.from(heard[c]!.slice(stage.latency, stage.latency + total));
    const worst = late.reduce((most, x, n) => Math.max(most, Math.abs(x - alone[n]!)), 0);
    expect(worst).toBeLessThan(1e-12);
    expect(heard[c]!.slice(0, stage.latency - middle).every((x) => x === 0)).toBe(true);
  });
});
