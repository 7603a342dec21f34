import { filterInPlace, designBiquad } from '@/core/signal/biquad';
import { readAt } from '@/core/signal/interpolation';
import { soundOf } from '@/core/signal/sound';
import { sine, xorshiftNoise } from '@/core/test/signals';
import { findDrift, readStretched, worthCorrecting } from './drift';

const RATE = 48000;
const music = filterInPlace(xorshiftNoise(3, 0.4, RATE * 30), [
  designBiquad('lowpass', 4000, RATE, 0.7),
]);

/** What is found of a take that begins so many samples late and runs so many millionths long. */
const driftOf = (reference: Float64Array, other: Float64Array, late: number, ppm: number) =>
  findDrift(
    soundOf([reference]),
    soundOf([other]),
    RATE,
    late + (ppm * 1e-6 * reference.length) / 2,
  );

it('reads a stretched sine as the sine of the stretched time', () => {
  const out = readStretched(sine(1000, RATE, 1, 0.5), 100.25, 4000, 1.0001);
  for (let n = 0; n < out.length; n += 97) {
    const t = (100.25 + 1.0001 * n) / RATE;
    expect(out[n]).toBeCloseTo(0.5 * Math.sin(2 * Math.PI * 1000 * t), 4);
  }
});

it.each([25, -40])('finds a clock that is off by %i millionths', (ppm) => {
  const other = readStretched(music, -37.4, music.length, 1 / (1 + ppm * 1e-6));
  const found = driftOf(music, other, 37.4, ppm);
  expect(found?.ppm).toBeCloseTo(ppm, 0);
  expect(worthCorrecting(found ?? { ppm: 0, errorPpm: 1 }, RATE * 12)).toBe(true);
});

it('with a step of one it is the plain fractional delay', () => {
  const plain = readAt(music, 1000.37, 4000);
  readStretched(music, 1000.37, 4000, 1).forEach((x, n) => expect(x).toBeCloseTo(plain[n]!, 5));
});

it('sees the drift of a take that is turned over and coloured, too', () => {
  const other = filterInPlace(readStretched(music, -12, music.length, 1 / 1.00003), [
    designBiquad('bell', 900, RATE, 1, 6),
  ]).map((x) => -0.4 * x);
  const found = driftOf(music, other, 12, 30);
  expect(found?.ppm).toBeCloseTo(30, 0);
});

it.each([
  [110, 25],
  [220, -40],
  [880, 25],
])(
  'is not led astray by a held note of %i Hz, which fits as well a period later: %i',
  (hz, ppm) => {
    const note = xorshiftNoise(3, 0.01, RATE * 30);
    for (let partial = 1; partial <= 6; partial++) {
      const tone = sine(hz * partial, RATE, 30, 0.2 / partial);
      for (let n = 0; n < note.length; n++) note[n]! += tone[n]!;
    }
    const other = readStretched(note, -37.4, note.length, 1 / (1 + ppm * 1e-6));
    xorshiftNoise(99, 0.01, note.length).forEach((x, n) => (other[n]! += x));
    const found = driftOf(note, other, 37.4, ppm);
    expect(found?.ppm).toBeCloseTo(ppm, 0);
    expect(found?.errorPpm).toBeLessThan(0.5);
  },
);

it('believes no drift between performances that have nothing in common', () => {
  expect(
    findDrift(soundOf([music]), soundOf([xorshiftNoise(99, 0.4, music.length)]), RATE, 0),
  ).toBeNull();
});

it('finds none between takes of one clock', () => {
  const found = findDrift(soundOf([music]), soundOf([music.map((x) => 0.5 * x)]), RATE, 0);
  expect(Math.abs(found?.ppm ?? 99)).toBeLessThan(0.1);
  expect(worthCorrecting(found ?? { ppm: 9, errorPpm: 0 }, RATE * 12)).toBe(false);
});

it('says nothing about takes that are too short', () => {
  const short = music.subarray(0, RATE / 2);
  expect(findDrift(soundOf([short]), soundOf([short]), RATE, 0)).toBeNull();
});
