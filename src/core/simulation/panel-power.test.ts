import { signTestPower } from '@/core/design/power';
import { Random } from '@/core/signal/random';
import { TASK_IDS, type TaskId, TASKS } from '@/core/tasks';
import type { PowerQuestion } from '@/core/tasks/task';
import { findingsOf, readAll, SECTIONS } from '@/core/statistics/sections';
import { alone } from '@/core/statistics/claims';
import { leaning } from './leaning';
import { panelOf, readPanel, simulatedPower } from './panel-power';

type Question = PowerQuestion & { task: TaskId };

const question = (change: Partial<Question>): Question => ({
  task: 'pair',
  chains: 2,
  seats: 12,
  together: false,
  trials: 4,
  tiesAllowed: false,
  controls: { self: false, levelCatch: false, repeats: 0 },
  words: ['warm', 'bright', 'nasal'],
  effect: 0.7,
  ...change,
});
const RUNS = 600;
const powers = (change: Partial<Question>, seed = 1, runs = RUNS) => {
  const found = simulatedPower(question(change), runs, new Random(seed));
  if (!found) throw new Error('no power is stated');
  return found;
};
const power = (change: Partial<Question>, seed = 1, runs = RUNS) =>
  powers(change, seed, runs).found;
/** Nothing differs. */
const LEVEL: Partial<Record<TaskId, number>> = { pair: 0.5, words: 0.2 };

describe('simulated panels', () => {
  it.each(TASK_IDS)(
    '%s: without a difference about one in twenty panels errs, or fewer, and none is named more often',
    (task) => {
      const { line, ofOnePair } = TASKS[task];
      const chains = line || task === 'words' ? 4 : ofOnePair ? 2 : 3;
      const level = powers({ task, chains, trials: 6, effect: LEVEL[task] ?? 0 });
      // Three standard errors above 5 %; exact tests on few answers stay below.
      expect(level.found).toBeLessThan(0.05 + 3 * 0.009);
      expect(level.named).toBeLessThanOrEqual(level.found);
    },
  );

  it('find more with more listeners, and large differences almost always', () => {
    expect(power({ seats: 30 })).toBeGreaterThan(power({ seats: 8 }) + 0.2);
    expect(power({ effect: 0.95, seats: 20 }, 1, 150)).toBeGreaterThan(0.97);
    expect(power({ task: 'line', chains: 6, trials: 1, effect: 40 }, 1, 150)).toBeGreaterThan(0.97);
    expect(power({ task: 'triangle', effect: 4, trials: 6 }, 1, 150)).toBeGreaterThan(0.97);
    expect(power({ task: 'words', chains: 4, trials: 4, effect: 0.95 }, 1, 150)).toBeGreaterThan(
      0.97,
    );
  });

  it('promise nothing of a room whose trials leave places uneven, as no verdict is given there', () => {
    const room = { task: 'line' as const, chains: 4, effect: 40, together: true };
    expect(powers({ ...room, trials: 3 }, 1, 50)).toEqual({ found: 0, named: 0 });
    expect(power({ ...room, trials: 4 }, 1, 50)).toBeGreaterThan(0.9);
    expect(power({ task: 'triangle', effect: 6, trials: 4, together: true }, 1, 50)).toBe(0);
  });

  it('agree with the sign test where each listener judges one pair once', () => {
    // Differing tastes draw the average share towards one half; one judgement each is then a plain sample.
    const [lead, spread] = [Math.log(0.7 / 0.3), 0.5 * Math.SQRT2];
    const random = new Random(7);
    let share = 0;
    for (let i = 0; i < 20000; i++) {
      share += 1 / (1 + Math.exp(-(lead + spread * random.normal()))) / 20000;
    }
    const exact = signTestPower(60, share);
    expect(Math.abs(power({ seats: 60, trials: 1 }) - exact)).toBeLessThan(0.09);
  });

  it('are right as often as the stated d′ says, however much listeners differ', () => {
    // Two-interval: Φ(1/√2) = 0.7602; from memory with one clip alone: Φ(1/2) = 0.6915.
    for (const [task, share] of [
      ['two-interval', 0.7602],
      ['memory', 0.6915],
    ] as const) {
      const random = new Random(3);
      const trial = { kind: 'judged' as const, right: 0, slots: [{ chain: 0, gainDb: 0 }] };
      let right = 0;
      for (let i = 0; i < 20000; i++) {
        const answer = TASKS[task].power!.listener(question({ task, effect: 1 }), random)(trial);
        if ('slot' in answer && answer.slot === 0) right++;
      }
      expect(Math.abs(right / 20000 - share)).toBeLessThan(3 * Math.sqrt(0.25 / 20000));
    }
  });

  it.each(TASK_IDS)('%s: read as the sealed analysis reads them, to the last sentence', (task) => {
    const { section, line, ofOnePair } = TASKS[task];
    const effect =
      { pair: 0.85, words: 0.8, line: 25, reference: 25, likeness: 25 }[task as 'pair'] ?? 2;
    const random = new Random(11);
    const chains = line || task === 'words' ? 4 : ofOnePair ? 2 : 3;
    for (let run = 0; run < 8; run++) {
      const asked = question({ task, chains, seats: 6 + 2 * run, trials: 6, effect });
      const observations = panelOf(asked, random);
      const { p, named } = SECTIONS[section].verdict!(observations);
      const { results } = readAll(observations, { seed: 1, made: null });
      expect(p).toBe(SECTIONS[section].headlineP(results));
      const panel = {
        listeners: asked.seats,
        answers: observations.length,
        said: line?.said ?? null,
      };
      const where = { source: 'cello', passage: 'verse', claim: alone(p) };
      const said = findingsOf(section, results, { ...panel, ...where })?.headline ?? '';
      const claimed = p !== null && p < 0.05;
      if (section === 'pair')
        expect(/ is preferred\.$/.test(said)).toBe(claimed && named().length > 0);
      if (section === 'pair' && claimed && named().length > 0)
        expect(said).toBe(`${named()[0]} is preferred.`);
      if (section === 'rating' && claimed && named().length > 0)
        expect(said).toContain(`${named()[0]} ${line!.said.best}`);
      if (section === 'against') {
        for (const chain of claimed ? named() : []) expect(said).toContain(`${chain} (p`);
        expect(/above the reference/.test(said)).toBe(claimed && named().length > 0);
      }
      if (section === 'attributes') {
        expect(/differs between/.test(said)).toBe(claimed);
        if (claimed) expect(named().some((word) => said.includes(`“${word}”`))).toBe(true);
      }
      if (section === 'audibility' && chains > 2)
        expect(said).toMatch(claimed ? `${named().length} of 3 pairs` : /^None of 3 pairs/);
      if (section === 'recall')
        expect(/^The two are told apart from memory/.test(said)).toBe(claimed);
    }
  });

  it('name nobody as the best of a small panel, though they find that the chains differ', () => {
    const small = powers({ chains: 4, seats: 5, trials: 12, effect: 0.94 });
    expect(small.found).toBeGreaterThan(0.8);
    // From six listeners on.
    expect(small.named).toBe(0);
    expect(powers({ chains: 4, seats: 20, trials: 12, effect: 0.94 }).named).toBeGreaterThan(0.9);
  });

  it('hear one order in a room', () => {
    const { found } = powers({ chains: 3, seats: 16, trials: 6, together: true, effect: 0.85 });
    expect(found).toBeGreaterThan(0.9);
    expect(
      powers({ chains: 3, seats: 16, together: true, trials: 6, effect: 0.5 }).found,
    ).toBeLessThan(0.05 + 3 * 0.009);
  });

  it.each([
    ['triangle', 6],
    ['duo-trio', 6],
    ['two-interval', 6],
    ['memory', 6],
  ] as const)(
    '%s: in a room a common leaning to a place is no finding; it would be one in orders drawn anew',
    (task, trials) => {
      const runs = 800;
      const random = new Random(21);
      const errs = (together: boolean) => {
        let hits = 0;
        for (let run = 0; run < runs; run++) {
          const [order] = TASKS[task].orders({
            ...question({ chains: 2 }),
            seats: 1,
            together,
            trialsPerSeat: trials,
            pair: [0, 1],
            reference: 1,
            random,
          });
          const said = readPanel(
            task,
            Array.from({ length: 24 }, () => order!),
            () => leaning(task, [], random),
          );
          const { p } = SECTIONS[TASKS[task].section].verdict!(said);
          if (p !== null && p < 0.05) hits++;
        }
        return hits / runs;
      };
      expect(errs(true)).toBeLessThan(0.05 + 3 * Math.sqrt((0.05 * 0.95) / runs));
      expect(errs(false)).toBeGreaterThan(0.12);
    },
  );
});
