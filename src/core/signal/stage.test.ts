import { xorshiftNoise } from '@/core/test/signals';
import { delayLine } from './convolve';
import { designBiquad, filterInPlace, filterStage } from './biquad';
import { BLOCK_FRAMES, soundOf } from './sound';
import { passed } from '@/core/test/passed';
import { amplifier, throughStages } from './stage';

const noise = xorshiftNoise(4, 0.5, 3 * BLOCK_FRAMES + 77);

it('what stages are late by is taken out', () => {
  for (const frames of [1, 48, BLOCK_FRAMES, 2 * BLOCK_FRAMES + 5]) {
    const [out] = passed([noise], [delayLine(1, frames), delayLine(1, 3)]);
    expect(out).toEqual(noise);
  }
});

it('a delay line keeps channels apart', () => {
  const other = noise.map((x) => -2 * x);
  const block = [noise.slice(0, 100), other.slice(0, 100)];
  delayLine(2, 30).run(block);
  expect([...block[0]!]).toEqual([...new Float64Array(30), ...noise.subarray(0, 70)]);
  expect([...block[1]!]).toEqual([...new Float64Array(30), ...other.subarray(0, 70)]);
});

it.each([1, 2, 3, 5])('%i sections filter block by block as they do the whole', (count) => {
  const sections = Array.from({ length: count }, (_, i) =>
    designBiquad('bell', 200 * (i + 1), 48000, 1, 3 + i),
  );
  const out = passed([noise], [filterStage(1, sections)])[0]!;
  expect(out).toEqual(filterInPlace(noise.slice(), sections));
  // Against the difference equation, written out for each section.
  let wanted = [...noise.subarray(0, 500)];
  for (const { b0, b1, b2, a1, a2 } of sections) {
    const before = wanted;
    wanted = [];
    before.forEach((x, n) => {
      wanted.push(
        b0 * x +
          b1 * (before[n - 1] ?? 0) +
          b2 * (before[n - 2] ?? 0) -
          a1 * (wanted[n - 1] ?? 0) -
          a2 * (wanted[n - 2] ?? 0),
      );
    });
  }
  wanted.forEach((x, n) => expect(out[n]).toBeCloseTo(x, 9));
});

it('skips a lead that stages have heard, whatever they are late by', () => {
  for (const [skip, late] of [
    [0, 0],
    [100, 0],
    [BLOCK_FRAMES + 1, 40],
    [40, BLOCK_FRAMES + 1],
  ]) {
    const heard = new Float64Array(noise.length - skip!);
    const stages = late === 0 ? [amplifier(2)] : [amplifier(2), delayLine(1, late!)];
    throughStages(soundOf([noise]), stages, ([samples], at) => heard.set(samples!, at), skip);
    expect(heard).toEqual(noise.slice(skip).map((x) => 2 * x));
  }
});
