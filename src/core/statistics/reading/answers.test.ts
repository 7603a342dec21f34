import { Random } from '@/core/signal/random';
import { TASKS, type TaskId } from '@/core/tasks';
import type { Answer, TrialDesign } from '@/core/tasks/task';
import { claimsOf, holds } from '../claims';
import type { Observation } from '../observation';
import { readAll, SECTIONS } from '../sections';
import { ALPHA } from '../words';
import { readAcross } from '.';
import { type AnsweredPart, answersOf, type Questions } from './answers';
import type { ReadingPlan } from './plan-file';

const NAMES = ['Ahorn', 'Birke', 'Eiche', 'Fichte', 'Linde'];

interface Part {
  task: TaskId;
  context?: string;
  /** Log odds of each chain; what listeners like, in pairs and on lines. */
  liked?: readonly number[];
  /** Share of right answers; 0.5 is guessing. */
  right?: number;
  /** Share of ties. */
  ties?: number;
}

/** How a made-up listener answers one trial. */
function answerOf(part: Part, trial: TrialDesign, random: Random): Answer {
  const worth = ({ chain }: TrialDesign['slots'][number]) => part.liked?.[chain] ?? 0;
  if (part.task === 'line') {
    const places = trial.slots.map((slot) => 50 + 12 * worth(slot) + 8 * random.normal());
    return { places: places.map((place) => Math.min(100, Math.max(0, place))) };
  }
  if (part.task === 'pair') {
    if (random.uniform() < (part.ties ?? 0)) return { choice: 'tie' };
    const [first, second] = trial.slots.map(worth) as [number, number];
    return {
      choice: random.uniform() < 1 / (1 + Math.exp(second - first)) ? 'first' : 'second',
    };
  }
  const right = trial.right ?? 0;
  const other = right === 1 ? 2 : 1;
  return { slot: random.uniform() < (part.right ?? 0.5) ? right : other };
}

function observed(
  parts: readonly Part[],
  { listeners, chains, seed }: { listeners: number; chains: number; seed: number },
): Observation[][] {
  return parts.map((part, i) => {
    const task = TASKS[part.task];
    const orders = task.orders({
      chains,
      seats: listeners,
      trialsPerSeat: task.asksFirst ? 6 : task.round(chains),
      pair: task.asksFirst ? [0, 1] : null,
      reference: 0,
      controls: { self: false, levelCatch: false, repeats: 0 },
      random: Random.derived(seed, `orders ${i}`),
    });
    return orders.flatMap((trials, seat) => {
      const random = Random.derived(seed, `listener ${seat} in ${i}`);
      return trials.flatMap((trial, at) =>
        task
          .observe(answerOf(part, trial, random), {
            kind: trial.kind,
            chains: trial.slots.map(({ chain }) => NAMES[chain]!),
            right: trial.right,
            learned: [],
            gainsDb: trial.slots.map(({ gainDb }) => gainDb),
          })
          .map((said): Observation => ({
            listener: `Listener ${seat + 1}`,
            source: 'voice',
            passage: '',
            context: part.context ?? 'raw',
            sitting: '',
            part: `${i + 1}`,
            trial: `${at}`,
            replicate: 1,
            ...said,
          })),
      );
    });
  });
}

interface Setting {
  listeners?: number;
  chains?: number;
  seed?: number;
  primary?: number;
  plan?: ReadingPlan;
  prices?: readonly (number | null)[];
  nullHypothesis?: string | null;
}

function asked(parts: readonly Part[], setting: Setting = {}): Questions {
  const { listeners = 12, chains = 3, seed = 1, primary = 1, plan = {} } = setting;
  // Draws of whole panels take most of the time, so there are prices only where they are asked about.
  const prices = setting.prices ?? [];
  const own = observed(parts, { listeners, chains, seed });
  const results = own.map((some) => readAll(some, { seed: 1, made: null }).results);
  const claims = claimsOf(
    parts.map(({ task }, i) => SECTIONS[TASKS[task].section].headlineP(results[i]!)),
    primary,
  );
  return {
    parts: parts.map((part, i): AnsweredPart => ({
      number: i + 1,
      primary: i + 1 === primary,
      where: { source: 'voice', context: part.context ?? 'raw' },
      place: new Set(parts.map(({ context }) => context)).size > 1 ? (part.context ?? 'raw') : '',
      section: TASKS[part.task].section,
      liking: TASKS[part.task].asksLiking,
      results: results[i]!,
      claim: claims[i]!,
      listeners,
    })),
    across: readAcross(
      { observations: own.flat(), skipped: { blank: 0, missing: 0, duplicate: 0 }, warnings: [] },
      {
        seed: 1,
        plan,
        chains: {
          priced: prices.some((price) => price !== null),
          made: new Map(
            NAMES.map((name, i) => [
              name,
              { microphone: '', preamp: '', price: prices[i] ?? null },
            ]),
          ),
        },
      },
    ),
    nullHypothesis: setting.nullHypothesis ?? null,
    maxDistinguishers: plan.maxDistinguishers ?? null,
    money: (price) => `${price} €`,
  };
}

// Clear, but nobody always wins: strengths keep a size.
const FIRST = [1.4, 0, -1.4];
const LAST = [-1.4, 0, 1.4];

it('names the best of each place, and that the order turns', () => {
  const { liked, places } = answersOf(
    asked([
      { task: 'pair', context: 'raw', liked: FIRST },
      { task: 'pair', context: 'in the mix', liked: LAST },
    ]),
  );
  expect(liked.sentence).toMatch(
    /^Raw: Ahorn\. In the mix: the best is Birke or Eiche\. The order turns \(p\s<\s0\.001\)\.$/,
  );
  expect(places.map(({ number }) => number)).toEqual([1, 2]);
});

it('says that a change of order is not shown where strengths stay', () => {
  const { liked } = answersOf(
    asked([
      { task: 'pair', context: 'raw', liked: FIRST },
      { task: 'pair', context: 'in the mix', liked: FIRST },
    ]),
  );
  expect(liked.sentence).toMatch(
    /Ahorn\. In the mix: Ahorn\. That the order changes is not shown\.$/,
  );
});

it('stays silent of everything else where the primary part shows nothing', () => {
  const { liked, distinguishable, worth } = answersOf(
    asked(
      [
        { task: 'pair', context: 'raw', liked: [0, 0, 0] },
        { task: 'pair', context: 'in the mix', liked: LAST },
        { task: 'duo-trio', context: 'raw', right: 0.95 },
      ],
      { seed: 3, prices: [100, 200, 400] },
    ),
  );
  expect(liked.sentence).toBe('Raw: no preference shown. In the mix: no preference shown.');
  expect(distinguishable.sentence).toMatch(/^Not shown/);
  expect(worth.sentence).toContain('No preference was shown');
});

it('reads a place from pairs where pairs and a line were asked', () => {
  const { places } = answersOf(
    asked(
      [
        { task: 'line', liked: FIRST },
        { task: 'pair', liked: FIRST },
      ],
      { primary: 2 },
    ),
  );
  expect(places.map(({ number }) => number)).toEqual([2]);
  const { places: primary } = answersOf(
    asked([
      { task: 'line', liked: FIRST },
      { task: 'pair', liked: FIRST },
    ]),
  );
  expect(primary.map(({ number }) => number)).toEqual([1]);
});

const limit: Setting = {
  nullHypothesis: 'The dearer one makes no difference.',
  plan: { maxDistinguishers: 0.4 },
};

describe('the null hypothesis', () => {
  it('is rejected where two are told apart', () => {
    const { distinguishable, nullHypothesis } = answersOf(
      asked([{ task: 'duo-trio', right: 0.95 }], limit),
    );
    expect(distinguishable.sentence).toBe('Yes: Ahorn and Birke.');
    expect(distinguishable.figure).toMatch(/^\d+ of 72 right, p\s<\s0\.001$/);
    expect(nullHypothesis).toMatchObject({ verdict: 'rejected' });
  });

  it('is kept where no more hear it than would matter', () => {
    const { distinguishable, nullHypothesis } = answersOf(
      asked([{ task: 'duo-trio', right: 0.45 }], limit),
    );
    expect(distinguishable.sentence).toMatch(
      /^Hardly: Ahorn and Birke, by at most \d+ of 100 like these\.$/,
    );
    const { sentence = '', verdict } = nullHypothesis ?? {};
    expect(verdict).toBe('kept');
    const [, most] = /at most (\d+) of 100 like these hear it, and 40 of 100/.exec(sentence)!;
    expect(Number(most)).toBeLessThan(40);
  });

  it('is left undecided where the part has no verdict, however few were right', () => {
    const questions = asked([{ task: 'duo-trio', right: 0.45 }], limit);
    const [part] = questions.parts;
    const unheard = { ...part!, claim: { p: null, among: 1, open: true } };
    const { distinguishable, nullHypothesis } = answersOf({ ...questions, parts: [unheard] });
    expect(distinguishable.sentence).toBe('Not shown.');
    expect(nullHypothesis?.verdict).toBe('undecided');
  });

  it('is left undecided by few, and where the plan names no smallest difference', () => {
    const few = answersOf(asked([{ task: 'duo-trio', right: 0.5 }], { ...limit, listeners: 2 }));
    expect(few.nullHypothesis?.verdict).toBe('undecided');
    const without = answersOf(asked([{ task: 'duo-trio', right: 0.45 }], { ...limit, plan: {} }));
    expect(without.nullHypothesis).toMatchObject({ verdict: 'undecided' });
    expect(without.nullHypothesis?.sentence).toContain('names no smallest difference');
  });

  it('is rejected by a preference where nothing else was asked', () => {
    const { nullHypothesis } = answersOf(asked([{ task: 'pair', liked: FIRST }], limit));
    expect(nullHypothesis?.sentence).toBe('Rejected: a preference was shown.');
    const silent = answersOf(asked([{ task: 'pair', liked: [0, 0, 0] }], limit));
    expect(silent.nullHypothesis?.verdict).toBe('undecided');
  });
});

describe('the price', () => {
  const prices = [100, 200, 400];

  it('is worth it where the dearer is preferred to all that cost less', () => {
    const { worth } = answersOf(asked([{ task: 'pair', liked: LAST }], { prices }));
    expect(worth).toEqual({
      sentence: 'Preferred to all that cost less: Eiche, at 4.0 times the price of the cheapest.',
      figure: '400 € / 100 €',
    });
  });

  it('is not needed where the cheapest is preferred', () => {
    const { worth } = answersOf(asked([{ task: 'pair', liked: FIRST }], { prices }));
    expect(worth.sentence).toBe('It costs least of all: Ahorn is preferred.');
  });

  it('is not shown to be where a cheaper one may be the best, too', () => {
    const { worth } = answersOf(asked([{ task: 'pair', liked: [1, 1, -1.2] }], { prices }));
    expect(worth).toEqual({
      sentence: 'Not shown: at 50 % of the price, Ahorn is not shown worse.',
      figure: '100 € / 200 €',
    });
  });

  it('cannot be said without prices', () => {
    const one = answersOf(asked([{ task: 'pair', liked: FIRST }], { prices: [100, null, null] }));
    expect(one.worth.sentence).toContain('prices of some chains are missing');
    const none = answersOf(asked([{ task: 'pair', liked: FIRST }], { prices: [null, null, null] }));
    expect(none.worth.sentence).toContain('no prices are written down');
    const always = answersOf(asked([{ task: 'pair', liked: [90, 0, -90] }], { prices }));
    expect(always.worth.sentence).toContain('somebody always won');
  });
});

it('judges a prediction only by what may be claimed', () => {
  const rankings = [
    { by: 'Mirela', role: 'engineer' as const, winner: 'Eiche', distinguishable: 'yes' as const },
  ];
  const outcomes = (parts: Part[], setting: Setting = {}) =>
    answersOf(asked(parts, { plan: { rankings }, ...setting })).predictions.map(
      ({ outcome }) => outcome,
    );
  expect(outcomes([{ task: 'pair', liked: FIRST }])).toEqual(['wrong', 'right']);
  expect(outcomes([{ task: 'pair', liked: LAST }])).toEqual(['right', 'right']);
  expect(outcomes([{ task: 'pair', liked: [0, 0, 0] }])).toEqual(['open', 'open']);
  // What another part shows does not count behind a silent primary one.
  expect(
    outcomes([
      { task: 'pair', liked: [0, 0, 0] },
      { task: 'duo-trio', right: 0.95 },
    ]),
  ).toEqual(['open', 'open']);
});

describe('poor answers', () => {
  it.each<[string, Part[], Setting]>([
    ['one listener', [{ task: 'pair', liked: FIRST }], { listeners: 1 }],
    ['two listeners', [{ task: 'line', liked: FIRST }], { listeners: 2 }],
    ['nothing but ties', [{ task: 'pair', ties: 1 }], {}],
    ['a chain that is never chosen', [{ task: 'pair', liked: [3, 2, -90] }], {}],
    ['two chains', [{ task: 'pair', liked: [3, -3] }], { chains: 2 }],
    ['right answers of one listener', [{ task: 'duo-trio', right: 1 }], { listeners: 1 }],
  ])('%s: every sentence is whole', (_, parts, setting) => {
    const { distinguishable, liked, worth, nullHypothesis } = answersOf(
      asked(parts, { ...limit, ...setting }),
    );
    for (const { sentence, figure } of [distinguishable, liked, worth, nullHypothesis!]) {
      expect(sentence).toMatch(/^[A-ZÄ].*\.$/);
      expect(`${sentence} ${figure}`).not.toMatch(/NaN|undefined|null|Infinity/);
    }
  });
});

/** Sentences over panels drawn at random; what they may say is checked against the tests behind them. */
describe('no answer says more than its test carries', () => {
  const TASKS_TRIED: TaskId[] = ['pair', 'line', 'duo-trio'];

  it.each(Array.from({ length: 20 }, (_, i) => i))('panel %i', (seed) => {
    const random = Random.derived(seed, 'setting');
    const chains = 2 + random.below(3);
    const strength = random.below(2) === 0 ? 0 : 1.2;
    const parts = Array.from({ length: 1 + random.below(3) }, (): Part => ({
      task: TASKS_TRIED[random.below(TASKS_TRIED.length)]!,
      context: random.below(2) === 0 ? 'raw' : 'in the mix',
      liked: Array.from({ length: chains }, () => strength * random.normal()),
      right: 0.5 + 0.4 * random.below(2),
      ties: 0.2 * random.below(2),
    }));
    const questions = asked(parts, {
      ...limit,
      seed,
      chains,
      ...(seed % 4 === 0 && { prices: [100, 200, 400, 800] }),
      listeners: 1 + random.below(12),
      primary: 1 + random.below(parts.length),
      plan: {
        maxDistinguishers: 0.4,
        rankings: [{ by: 'M', role: 'engineer', winner: 'Ahorn', distinguishable: 'no' }],
      },
    });
    const { distinguishable, liked, worth, nullHypothesis, predictions, places } =
      answersOf(questions);
    const forced = questions.parts.filter(({ section }) => section === 'audibility');
    const apart = forced.some(
      ({ claim, results }) => holds(claim) && results.audibility.some(({ pHolm }) => pHolm < ALPHA),
    );
    if (distinguishable.sentence.startsWith('Yes')) expect(apart).toBe(true);
    const { audibility } = questions.across.verdicts;
    const within = audibility.every(({ verdict }) => verdict === 'no more than the limit');
    if (distinguishable.sentence.startsWith('Hardly')) expect(within).toBe(true);
    if (nullHypothesis?.verdict === 'kept') expect(within).toBe(true);
    const claimed = places.filter(({ claim }) => holds(claim));
    if (nullHypothesis?.verdict === 'rejected') expect(apart || claimed.length > 0).toBe(true);
    const names = NAMES.filter((name) => liked.sentence.includes(name));
    if (names.length > 0) expect(claimed.length).toBeGreaterThan(0);
    if (/turns|move/.test(liked.sentence)) {
      expect(questions.parts.every(({ claim }) => claim.open)).toBe(true);
      const tests = questions.across.interactions.map(({ pHolm }) => pHolm ?? 1);
      expect(Math.min(...tests)).toBeLessThan(ALPHA);
    }
    if (/preferred|Preferred|not shown worse|level/.test(worth.sentence)) {
      expect(claimed.length).toBeGreaterThan(0);
    }
    for (const { about, outcome, said, result } of predictions) {
      if (about === 'winner' && outcome !== 'open') expect(claimed.length).toBeGreaterThan(0);
      if (about === 'distinguishable' && outcome === 'right')
        expect([said, within]).toEqual(['no', true]);
      if (about === 'distinguishable' && result === 'yes') {
        expect(apart || claimed.length > 0).toBe(true);
      }
    }
  });
});
