import { designBiquad, filterInPlace, responseDb } from '@/core/signal/biquad';
import { passed } from '@/core/test/passed';
import { xorshiftNoise } from '@/core/test/signals';
import { averagedSpectra, bandLevels } from './spectra';
import { THIRD_OCTAVES } from './bands';
import { DEFAULT_TONE_MATCH, toneMatch, toneMatchStage } from './tone-match';

const RATE = 48000;
const noise = xorshiftNoise(7, 0.3, RATE * 12);
const colour = [
  designBiquad('bell', 300, RATE, 0.7, 5),
  designBiquad('highshelf', 5000, RATE, 0.7, -4),
];
const coloured = filterInPlace(noise.slice(), colour);

describe.each(['minimum', 'linear'] as const)('tone match, %s phase', (phase) => {
  const made = toneMatch(averagedSpectra([noise], [coloured], RATE), {
    ...DEFAULT_TONE_MATCH,
    phase,
  });

  it('is the inverse of the filter that made the difference', () => {
    const level = made.bands.reduce((sum, { centerHz, db }) => {
      return sum + (db + responseDb(colour, centerHz, RATE)) / made.bands.length;
    }, 0);
    for (const { centerHz, db } of made.bands.filter(({ centerHz: hz }) => hz >= 63)) {
      expect(Math.abs(db - level + responseDb(colour, centerHz, RATE))).toBeLessThan(0.6);
    }
  });

  it('brings every third of the clip to the reference, without moving it in time', () => {
    const out = passed([coloured], [toneMatchStage(1, made)])[0]!;
    expect(out.length).toBe(coloured.length);
    const [want, has] = [noise, out].map((x) => bandLevels([x], RATE, THIRD_OCTAVES));
    const differences = want!.map((level, i) => (has![i] ?? 0) - (level ?? 0));
    const from = THIRD_OCTAVES.findIndex(({ centerHz }) => centerHz === 80);
    const inside = differences.slice(from, -1);
    const mean = inside.reduce((sum, db) => sum + db, 0) / inside.length;
    for (const db of inside) expect(Math.abs(db - mean)).toBeLessThan(0.5);
    // What is left of the delay shows in the correlation at lag 0.
    let [ab, aa, bb] = [0, 0, 0];
    for (let n = RATE; n < 3 * RATE; n++) {
      ab += noise[n]! * out[n]!;
      aa += noise[n]! ** 2;
      bb += out[n]! ** 2;
    }
    expect(ab / Math.sqrt(aa * bb)).toBeGreaterThan(0.97);
  });
});

it('never lifts by more than its limit', () => {
  const dull = filterInPlace(noise.slice(), [designBiquad('lowpass', 3000, RATE, 0.7)]);
  const { bands } = toneMatch(averagedSpectra([noise], [dull], RATE), {
    ...DEFAULT_TONE_MATCH,
    limitDb: 6,
  });
  expect(Math.max(...bands.map(({ db }) => db))).toBe(6);
});
