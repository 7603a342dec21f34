import { toDecibels, toReducingGains } from './decibels';

it('decibels are those of the logarithm, to 0.00001 dB, over the whole range of sound', () => {
  const magnitudes = Float64Array.from({ length: 40000 }, (_, i) => 10 ** ((i - 30000) / 4000));
  const wanted = magnitudes.map((x) => 20 * Math.log10(x));
  toDecibels(magnitudes);
  const worst = magnitudes.reduce((most, db, i) => Math.max(most, Math.abs(db - wanted[i]!)), 0);
  expect(worst).toBeLessThan(1e-5);
});

it('silence is far below anything, and no accident', () => {
  const silent = new Float64Array(1);
  toDecibels(silent);
  expect(silent[0]).toBeLessThan(-700);
});

it('reductions become the gains that make them, to 0.00001 dB', () => {
  const reductions = Float64Array.from({ length: 40000 }, (_, i) => i / 500);
  const wanted = reductions.slice();
  toReducingGains(reductions);
  const worst = reductions.reduce(
    (most, gain, i) => Math.max(most, Math.abs(20 * Math.log10(gain) + wanted[i]!)),
    0,
  );
  expect(worst).toBeLessThan(1e-5);
  const edges = Float64Array.from([0, 80, 1000]);
  toReducingGains(edges);
  expect(edges[0]).toBe(1);
  expect(edges[1]).toBeCloseTo(1e-4, 12);
  expect(edges[2]).toBe(edges[1]);
});
