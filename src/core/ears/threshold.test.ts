import { Random } from '@/core/signal/random';
import { binomialAtMost } from '@/core/statistics/distributions';
import { amountAt, foldsOf, placeOf } from './axis';
import { skillOf } from './skills';
import { guessed, thresholdOf } from './outcome';
import { chanceOfRight, type Given, nextPlace } from './threshold';

const SESSIONS = 500;
const TRIALS = 40;
const levelSteps = skillOf('level')!;
const hiss = skillOf('noise')!;
const [level, noise] = [levelSteps.axis, hiss.axis];

/** Somebody with a threshold, a slope and lapses that are known. */
interface Ears {
  place: number;
  slope: number;
  lapse: number;
}

function session(axis: typeof level, ears: Ears, random: Random): Given[] {
  const given: Given[] = [];
  while (given.length < TRIALS) {
    const place = nextPlace(axis, given);
    const p = chanceOfRight(foldsOf(axis), place, ears.place, ears.slope, ears.lapse);
    given.push({ place, right: random.uniform() < p });
  }
  return given;
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b) / values.length;

describe('the axis', () => {
  it('spaces sizes by ratio or by level', () => {
    expect(amountAt(level, 0)).toBeCloseTo(0.1, 12);
    expect(amountAt(level, 1)).toBeCloseTo(6, 12);
    // Half the way of a ratio is the geometric mean.
    expect(amountAt(level, 0.5)).toBeCloseTo(Math.sqrt(0.6), 12);
    expect(amountAt(noise, 0.5)).toBe(-50);
    for (const axis of [level, noise]) {
      for (const place of [-0.1, 0, 0.3, 1]) {
        expect(placeOf(axis, amountAt(axis, place))).toBeCloseTo(place, 12);
      }
    }
    // 60 dB are a thousandfold, 6.9 times e.
    expect(foldsOf(noise)).toBeCloseTo(Math.log(1000), 12);
    expect(foldsOf(level)).toBeCloseTo(Math.log(60), 12);
  });
});

it('is right by chance where nothing is heard, and in close to three of four at the threshold', () => {
  expect(chanceOfRight(4, -10, 0.5, 2, 0)).toBeCloseTo(1 / 3, 9);
  expect(chanceOfRight(4, 0.5, 0.5, 2, 0)).toBeCloseTo(1 / 3 + (2 / 3) * (1 - Math.exp(-1)), 12);
  expect(chanceOfRight(4, 10, 0.5, 2, 0.05)).toBeCloseTo(0.95, 12);
});

describe('500 sessions of 40 trials', () => {
  it.each([
    ['fine ears, level', levelSteps, { place: 0.25, slope: 1.6, lapse: 0.02 }],
    ['dull ears, level', levelSteps, { place: 0.8, slope: 1.3, lapse: 0.02 }],
    ['usual ears, noise', hiss, { place: 0.55, slope: 1.3, lapse: 0.03 }],
  ])('find the threshold of %s without bias', (_, skill, ears) => {
    const { axis } = skill;
    const random = new Random(99);
    const found = Array.from({ length: SESSIONS }, () =>
      thresholdOf({ skill }, session(axis, ears, random)),
    );
    const off = mean(found.map(({ place }) => place)) - ears.place;
    expect(Math.abs(off)).toBeLessThan(0.05);
    if (skill === levelSteps) {
      const db = mean(found.map(({ place }) => amountAt(axis, place)));
      expect(Math.abs(db - amountAt(axis, ears.place))).toBeLessThan(0.5);
    }
    // What is said to be 95 % sure is so in about as many cases.
    const covered = found.filter(({ from, to }) => from <= ears.place && ears.place <= to).length;
    expect(covered / SESSIONS).toBeGreaterThan(0.9);
    expect(found.filter(({ shown }) => shown).length / SESSIONS).toBeGreaterThan(0.9);
  });

  it('show nothing of somebody who guesses', () => {
    const random = new Random(3);
    const guesser = { place: 50, slope: 2, lapse: 0 };
    const shown = Array.from({ length: SESSIONS }, () =>
      thresholdOf({ skill: levelSteps }, session(level, guesser, random)),
    ).filter((one) => one.shown);
    expect(shown.length / SESSIONS).toBeLessThanOrEqual(0.01);
  });
});

it('begins easy, and comes nearer to what is just heard', () => {
  const random = new Random(8);
  const given = session(level, { place: 0.4, slope: 2.5, lapse: 0.01 }, random);
  expect(given.slice(0, 2).map(({ place }) => place)).toEqual([1, 0.9]);
  const late = given.slice(20).map(({ place }) => place);
  expect(Math.abs(mean(late) - 0.4)).toBeLessThan(0.2);
});

it('counts how likely a guesser is as often right', () => {
  expect(guessed(0, 16)).toBe(1);
  // 1 − P(X ≤ 9) of 16 at 1/3, summed from the formula.
  const choose = (n: number, k: number): number =>
    k === 0 ? 1 : (choose(n, k - 1) * (n - k + 1)) / k;
  const tail = [10, 11, 12, 13, 14, 15, 16].reduce(
    (sum, k) => sum + choose(16, k) * (1 / 3) ** k * (2 / 3) ** (16 - k),
    0,
  );
  expect(guessed(10, 16)).toBeCloseTo(tail, 12);
  expect(binomialAtMost(9, 16, 1 / 3)).toBeCloseTo(1 - tail, 12);
});
