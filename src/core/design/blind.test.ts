import { Random } from '@/core/signal/random';
import { GUESS } from '@/core/statistics/psychometric';
import { TASK_IDS, TASKS } from '@/core/tasks';
import { needsFreshWords } from '@/core/tasks/shared/controls';
import type { TaskId } from '@/core/tasks';
import type { Controls, OrderPlan, TrialDesign } from '@/core/tasks/task';
import { type Candidate, guessAmong } from '@/core/test/guesser';
import { type CodeMode, codeTrials } from './codes';

/** Programs that try to find out what listeners must not know, from words and places alone. */
const SEATS = 200;
const MOST_SIGMAS = 4;

interface Shown extends TrialDesign {
  words: string[];
}

/** What every seat of one part is shown. */
function shown(task: TaskId, controls: Controls, mode: CodeMode, seed: number): Shown[][] {
  const random = new Random(seed);
  const plan: OrderPlan = {
    chains: 4,
    seats: SEATS,
    trialsPerSeat: 6,
    pair: TASKS[task].ofOnePair ? [0, 1] : null,
    reference: 0,
    controls,
    random,
  };
  const seats = TASKS[task].orders(plan);
  const freshWords = needsFreshWords(TASKS[task], controls);
  // A part of plain pairs comes first, so that fixed words are known when the controls come.
  const plain = TASKS.pair.orders({ ...plan, pair: null, controls: NONE });
  const words = codeTrials(
    seats.map((trials, seat) => [
      ...plain[seat]!.map(({ slots }) => ({ slots, freshWords: false })),
      ...trials.map(({ slots }) => ({ slots, freshWords })),
    ]),
    4,
    mode,
    random,
  );
  return seats.map((trials, seat) =>
    trials.map((trial, i) => ({ ...trial, words: words[seat]![plain[seat]!.length + i]! })),
  );
}

const NONE: Controls = { self: false, levelCatch: false, repeats: 0 };
const ALL: Controls = { self: true, levelCatch: true, repeats: 2 };

/** All that words and places show of a trial: how often its words come, before, in all, and where it stands. */
function signsOf(trials: readonly Shown[], at: number): string[] {
  const all = trials.flatMap(({ words }) => words);
  const before = trials.slice(0, at).flatMap(({ words }) => words);
  const count = (list: readonly string[], word: string) =>
    list.filter((one) => one === word).length;
  const { words } = trials[at]!;
  const pair = [...words].sort().join();
  return [
    `place ${at}`,
    `from the end ${trials.length - at}`,
    `words seen ${words
      .map((word) => count(all, word))
      .sort()
      .join()}`,
    `seen before ${words
      .map((word) => Math.min(1, count(before, word)))
      .sort()
      .join()}`,
    `pair again ${trials.filter((one) => [...one.words].sort().join() === pair).length}`,
    ...words.map((word) => `word ${word}`),
  ];
}

function halves<T>(list: readonly T[]): [T[], T[]] {
  return [list.filter((_, i) => i % 2 === 0), list.filter((_, i) => i % 2 === 1)];
}

describe.each(['fresh', 'fixed'] as const)('with %s words', (mode) => {
  it.each(['pair', 'reference'] as const)(
    'nobody finds the controls of %s by words or places',
    (task) => {
      for (const kind of ['self', 'louder', 'repeat'] as const) {
        const cases = shown(task, ALL, mode, 5).map((trials) =>
          trials.map((trial, i): Candidate => ({
            signs: signsOf(trials, i),
            wanted: trial.kind === kind,
          })),
        );
        if (!cases[0]!.some(({ wanted }) => wanted)) continue;
        const { found, chance, sigmas } = guessAmong(...halves(cases));
        expect({ kind, found, chance, over: sigmas > MOST_SIGMAS }).toMatchObject({ over: false });
      }
    },
  );

  it('nobody finds the recording that stands twice on a line', () => {
    const cases = shown('line', { ...NONE, repeats: 1 }, mode, 6).flatMap((trials) =>
      trials.map((trial) =>
        trial.slots.map(({ chain }, slot): Candidate => ({
          signs: [
            `slot ${slot}`,
            `word ${trial.words[slot]}`,
            `in all ${trials.filter(({ words }) => words.includes(trial.words[slot]!)).length}`,
          ],
          wanted: trial.slots.filter((one) => one.chain === chain).length > 1,
        })),
      ),
    );
    expect(guessAmong(...halves(cases)).sigmas).toBeLessThan(MOST_SIGMAS);
  });

  it('nobody finds which recording of a sitting is the reference', () => {
    // The reference is named where candidates are judged against it; its own word must not stand out elsewhere.
    const cases = shown('reference', { ...NONE, self: true }, mode, 7).map((trials) => {
      const heard = trials.flatMap(({ slots, words }) =>
        slots.slice(1).map(({ chain }, i) => ({ chain, word: words[i + 1] })),
      );
      return heard.map(({ chain, word }, i): Candidate => ({
        signs: [
          `place ${i}`,
          `word ${word}`,
          `times ${heard.filter((one) => one.word === word).length}`,
        ],
        wanted: chain === 0,
      }));
    });
    expect(guessAmong(...halves(cases)).sigmas).toBeLessThan(MOST_SIGMAS);
  });

  it.each(TASK_IDS.filter((id) => id in GUESS || id === 'memory'))(
    'nobody finds the right answers of %s by words, places or what was right so far',
    (task) => {
      const cases = shown(task, NONE, mode, 8).flatMap((trials) => {
        const judged = trials.filter(({ kind }) => kind === 'judged');
        return judged.map(({ slots, words, right }, i) => {
          const earlier = judged.slice(0, i).map((one) => one.right ?? -1);
          const answers = task === 'memory' ? [0, 1] : slots.map((_, slot) => slot);
          const open = answers.filter((slot) => task !== 'duo-trio' || slot > 0);
          return open.map((slot): Candidate => ({
            signs: [
              `slot ${slot} at ${i}`,
              `right so far ${earlier.filter((one) => one === slot).length} of ${i}`,
              `last ${earlier.at(-1) === slot}`,
              `word ${words[slot] ?? ''}`,
            ],
            wanted: right === slot,
          }));
        });
      });
      expect(guessAmong(...halves(cases)).sigmas).toBeLessThan(MOST_SIGMAS);
    },
  );
});

/** Ways of answering without hearing anything: by place, by turn, and by what was right so far. */
const STRATEGIES: Record<string, (right: readonly number[], slots: number) => number> = {
  'always the first': () => 0,
  'always the last': (_, slots) => slots - 1,
  'each in turn': (right, slots) => right.length % slots,
  'what was right least often': (right, slots) => leastOf(right, slots),
  'what was right last': (right) => right.at(-1) ?? 0,
};

function leastOf(right: readonly number[], slots: number): number {
  const counts = Array.from({ length: slots }, (_, i) => right.filter((one) => one === i).length);
  return counts.indexOf(Math.min(...counts));
}

describe.each([
  ['duo-trio', 2, 1],
  ['triangle', 3, 0],
  ['two-interval', 2, 0],
  ['memory', 2, 0],
] as const)('guessers at %s', (task, choices, from) => {
  const trialsPerSeat = 6;
  const seats = TASKS[task].orders({
    chains: 2,
    seats: 8000,
    trialsPerSeat,
    pair: [0, 1],
    reference: 0,
    controls: NONE,
    random: new Random(21),
  });
  it.each(Object.keys(STRATEGIES))('who answer %s are right at the guessing rate', (name) => {
    const counts = seats.map((trials) => {
      const right: number[] = [];
      let hits = 0;
      for (const trial of trials.filter(({ kind }) => kind === 'judged')) {
        const place = (trial.right ?? 0) - from;
        if (STRATEGIES[name]!(right, choices) === place) hits++;
        right.push(place);
      }
      return hits;
    });
    const rate = 1 / choices;
    const mean = counts.reduce((a, b) => a + b, 0) / counts.length;
    const variance = counts.reduce((sum, x) => sum + (x - mean) ** 2, 0) / (counts.length - 1);
    const binomial = trialsPerSeat * rate * (1 - rate);
    expect(Math.abs(mean - trialsPerSeat * rate)).toBeLessThan(4 * Math.sqrt(binomial / 8000));
    // The exact binomial test supposes this spread; four standard errors of it lie within 0.07.
    expect(variance / binomial).toBeGreaterThan(0.93);
    expect(variance / binomial).toBeLessThan(1.07);
  });
});

it('controls stand at every place equally often', () => {
  const controls = { self: true, levelCatch: false, repeats: 1 };
  for (const task of ['pair', 'reference'] as const) {
    const places = new Map<string, number[]>();
    for (const trials of shown(task, controls, 'fresh', 9)) {
      trials.forEach(({ kind }, i) => {
        if (kind === 'judged') return;
        const counts = places.get(kind) ?? new Array<number>(trials.length).fill(0);
        counts[i]!++;
        places.set(kind, counts);
      });
    }
    for (const counts of places.values()) {
      const expected = SEATS / counts.length;
      const chi = counts.reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0);
      // 7 degrees of freedom: 24.3 is passed once in a thousand.
      expect(counts.length).toBe(8);
      expect(chi).toBeLessThan(24.3);
    }
  }
});
