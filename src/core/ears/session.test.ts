import { amountAt, placeOf } from './axis';
import { type Answered, atMost, type SessionPlan, standingOf, tired, trialsOf } from './session';
import { outcomeOf, outcomeText, shownAmount } from './outcome';
import { sizeText } from './skill';
import { fits, SKILLS, skillOf, toldSkill, usualChoices } from './skills';

const plan: SessionPlan = { skill: skillOf('level')!, choices: {}, amount: null, seed: 77 };
const test: SessionPlan = { ...plan, amount: 1 };

/** Somebody who hears whatever is larger than a size, and else takes the first. */
function hears(one: SessionPlan, leastAmount: number, trials = trialsOf(one)): Answered[] {
  const answers: Answered[] = [];
  while (answers.length < trials) {
    const { next } = standingOf(one, answers);
    const chosen = next!.amount >= leastAmount ? next!.odd : 0;
    answers.push({ chosen, seconds: 6, place: next!.place });
  }
  return answers;
}

it('is the same again of the same seed and answers, and ends', () => {
  const answers = hears(plan, 0.5);
  expect(standingOf(plan, answers)).toEqual(standingOf(plan, answers));
  expect(standingOf(plan, answers).next).toBeNull();
  expect(standingOf(plan, answers.slice(0, 7)).next!.position).toBe(7);
  expect(standingOf({ ...plan, seed: 78 }, []).given).toEqual([]);
});

it('draws what is meant evenly over places and ways, whatever is answered', () => {
  const counts = [0, 0, 0];
  let up = 0;
  for (let seed = 0; seed < 900; seed++) {
    const { odd, way } = standingOf({ ...test, seed }, []).next!;
    counts[odd]!++;
    if (way === 1) up++;
  }
  // 900 draws: 300 each, within three standard deviations (14).
  for (const count of counts) expect(Math.abs(count - 300)).toBeLessThan(43);
  expect(Math.abs(up - 450)).toBeLessThan(46);
  const other = (chosen: number) => standingOf(plan, [{ chosen, place: 1 }]).next!;
  expect(other(0).odd).toBe(other(2).odd);
});

it('finds the size somebody hears, by their answers alone', () => {
  const { given } = standingOf(plan, hears(plan, 0.5));
  const outcome = outcomeOf(plan, given);
  if (outcome.kind !== 'threshold') throw new Error(outcome.kind);
  expect(outcome.threshold.shown).toBe(true);
  expect(Math.abs(amountAt(plan.skill.axis, outcome.threshold.place) - 0.5)).toBeLessThan(0.15);
  expect(placeOf(plan.skill.axis, 0.5)).toBeGreaterThan(outcome.threshold.from);
  expect(placeOf(plan.skill.axis, 0.5)).toBeLessThan(outcome.threshold.to);
});

it('says nothing of a session that was hardly begun', () => {
  const { given } = standingOf(plan, hears(plan, 0.5, 9));
  expect(outcomeOf(plan, given)).toEqual({ kind: 'too few', trials: 9 });
  expect(outcomeOf(test, standingOf(test, hears(test, 0.5, 15)).given).kind).toBe('too few');
});

it('tests at one size, with what guessing would give in mind', () => {
  // Nine of sixteen at one in three: ISO 4120, table A.1, at 5 %.
  const of = (leastAmount: number) =>
    outcomeOf(test, standingOf(test, hears(test, leastAmount)).given);
  expect(of(0.5)).toEqual({ kind: 'test', right: 16, trials: 16, needed: 9, passed: true });
  expect(of(2)).toMatchObject({ kind: 'test', passed: false });
  expect(standingOf(test, []).next!.amount).toBe(1);
});

it('counts the chance of few right answers exactly', () => {
  expect(atMost(0, [0.5, 0.5, 0.5])).toBeCloseTo(0.125, 12);
  expect(atMost(1, [0.9, 0.5])).toBeCloseTo(1 - 0.45, 12);
  expect(atMost(3, [0.9, 0.5])).toBe(1);
});

describe('weariness', () => {
  const answers = hears(plan, 0.4, 32);
  const { given } = standingOf(plan, answers);

  it('is not seen in somebody who goes on as they began', () => {
    expect(tired(plan, given, answers)).toBeNull();
    expect(tired(plan, given.slice(0, 20), answers.slice(0, 20))).toBeNull();
  });

  it('is seen in answers that take long', () => {
    const slow = answers.map((one, i) => (i < 24 ? one : { ...one, seconds: 14 }));
    expect(tired(plan, given, slow)).toBe('slower');
  });

  it('is seen in answers that are wrong where they were right', () => {
    const worse = given.map((one, i) => (i < 24 ? one : { place: 0.9, right: i % 3 === 0 }));
    expect(tired(plan, worse, answers)).toBe('fewer');
  });
});

describe('skills', () => {
  it('know their own choices and no others', () => {
    for (const skill of SKILLS) expect(fits(skill, usualChoices(skill))).toBe(true);
    const band = skillOf('band')!;
    expect(fits(band, { ...usualChoices(band), centreHz: '3100' })).toBe(false);
    expect(fits(band, { centreHz: '3000' })).toBe(false);
    expect(fits(band, { ...usualChoices(band), toString: 'x' })).toBe(false);
    expect(skillOf('perfect pitch')).toBeNull();
  });

  it('are told with what was chosen, and sizes in words', () => {
    const band = skillOf('band')!;
    expect(toldSkill(band, usualChoices(band))).toBe(
      'Boost and cut of a band, 3 kHz, one octave, boost or cut',
    );
    expect(sizeText(skillOf('level')!, 0.35)).toBe('0.35 dB');
    expect(sizeText(skillOf('noise')!, -52.34)).toBe('−52.3 dB to the sound');
    expect(sizeText(skillOf('compression')!, 0.5)).toBe('1.50 : 1');
    expect(sizeText(skillOf('distance')!, 0.5)).toBe('30 cm for 20 cm');
    expect(sizeText(skillOf('chains')!, 0.25)).toBe('25 % of the difference');
  });
});

describe('what a session came to', () => {
  const threshold = (change: object) =>
    ({
      kind: 'threshold',
      threshold: { place: 0.5, from: 0.4, to: 0.6, right: 31, trials: 40, shown: true, ...change },
    }) as const;

  it('is told with its uncertainty, and as no more than it is', () => {
    // 0.1 to 6 dB: the middle is 0.77 dB, 0.4 is 0.51 dB, 0.6 is 1.17 dB.
    expect(outcomeText(plan, threshold({}))).toBe(
      'Heard three times of four at 0.77 dB (95 %: 0.51 dB to 1.2 dB; 31 of 40 right).',
    );
    expect(outcomeText(plan, threshold({ place: 0.02, from: -0.1, to: 0.2 }))).toContain(
      '0.10 dB or less to 0.23 dB',
    );
    expect(outcomeText(plan, threshold({ place: -0.2, from: -0.25, to: -0.05 }))).toBe(
      'Heard at 0.10 dB, the smallest that is played (31 of 40 right).',
    );
    expect(outcomeText(plan, threshold({ right: 15, shown: false }))).toBe(
      'Not shown that you hear it: 15 of 40 right, where guessing gives 13.',
    );
    const passed = { kind: 'test', right: 14, trials: 16, needed: 9, passed: true } as const;
    expect(outcomeText(test, passed)).toBe(
      '1.0 dB: heard (14 of 16 right; 9 show that it is no guessing).',
    );
    expect(outcomeText(test, { ...passed, right: 8, passed: false })).toContain('not shown to be');
    expect(outcomeText(plan, { kind: 'too few', trials: 1 })).toContain('after 1 answer,');
  });

  it('shows a size that is heard, or none', () => {
    expect(shownAmount(plan, threshold({}))).toBeCloseTo(Math.sqrt(0.6), 9);
    expect(shownAmount(plan, threshold({ place: -0.2 }))).toBeCloseTo(0.1, 9);
    expect(shownAmount(plan, threshold({ shown: false }))).toBeNull();
    expect(shownAmount(plan, { kind: 'too few', trials: 4 })).toBeNull();
  });
});
