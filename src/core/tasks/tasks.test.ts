import { Random } from '@/core/signal/random';
import { TASK_IDS, TASKS, type TaskId } from '.';
import { type AskedTrial, LOUDER_DB, type OpenedTrial, type OrderPlan } from './task';
import { MOST_ON_A_LINE } from './shared/lines';
import { STEREO_WORDS, TONAL_WORDS } from './words/lists';

const plan = (change: Partial<OrderPlan> = {}): OrderPlan => ({
  chains: 4,
  seats: 12,
  trialsPerSeat: 6,
  pair: null,
  reference: 1,
  controls: { self: false, levelCatch: false, repeats: 0 },
  random: new Random(11),
  ...change,
});
const orders = (task: TaskId, change: Partial<OrderPlan> = {}) =>
  TASKS[task].orders(plan({ pair: TASKS[task].ofOnePair ? [2, 0] : null, ...change }));
const chainsOf = (trial: { slots: readonly { chain: number }[] }) =>
  trial.slots.map(({ chain }) => chain);

function tally(values: readonly (string | number)[]): number[] {
  const counts = new Map<string | number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts.values()];
}
const spread = (values: readonly (string | number)[]) =>
  Math.max(...tally(values)) - Math.min(...tally(values));

describe.each(TASK_IDS)('%s', (id) => {
  it('gives every seat as many trials, and follows the seed', () => {
    const drawn = orders(id);
    expect(drawn.length).toBe(12);
    expect(new Set(drawn.map(({ length }) => length)).size).toBe(1);
    expect(orders(id)).toEqual(drawn);
    expect(orders(id, { random: new Random(12) })).not.toEqual(drawn);
  });

  it('refuses answers of another task', () => {
    const trial: AskedTrial = { kind: 'judged', slots: 3, tiesAllowed: true, words: ['dark'] };
    const fitting = {
      pair: 'choice',
      line: 'places',
      reference: 'places',
      likeness: 'places',
      'duo-trio': 'slot',
      triangle: 'slot',
      'two-interval': 'slot',
      memory: 'slot',
      words: 'words',
    }[id];
    for (const [name, answer] of Object.entries({
      choice: { choice: 'first' as const },
      places: { places: { line: [1, 2, 3], likeness: [1, 2] }[id as string] ?? [50] },
      slot: { slot: 1 },
      words: { words: ['dark'] },
    })) {
      expect(TASKS[id].refusal(answer, trial) === null).toBe(name === fitting);
    }
    expect(TASKS[id].refusal({ learned: true }, trial)).not.toBeNull();
  });
});

describe('orders', () => {
  it.each([
    ['duo-trio', 4],
    ['triangle', 6],
    ['two-interval', 2],
  ] as const)(
    '%s shows each of its %i ways, drawn anew each time, and knows which is right',
    (id, ways) => {
      const trials = orders(id, { seats: 40, pair: [2, 0] }).flat();
      expect(new Set(trials.map((trial) => chainsOf(trial).join())).size).toBe(ways);
      for (const trial of trials) {
        const chains = chainsOf(trial);
        const [right] = [trial.right ?? -1];
        if (id === 'duo-trio') expect(chains[right]).toBe(chains[0]);
        if (id === 'triangle') expect(chains.filter((c) => c === chains[right]).length).toBe(1);
        if (id === 'two-interval') expect(chains[right]).toBe(2);
      }
    },
  );

  it('cover all pairs equally often where no pair is named', () => {
    const trials = orders('triangle', { seats: 12, trialsPerSeat: 6 }).flat();
    const pairs = trials.map((trial) => [...new Set(chainsOf(trial))].sort().join());
    expect(new Set(pairs).size).toBe(6);
    expect(spread(pairs)).toBe(0);
  });

  it('a line holds all clips once, each place equally often, and its repeat without a mark', () => {
    const drawn = orders('line', { trialsPerSeat: 1, seats: 24 });
    for (const [trial] of drawn) expect([...chainsOf(trial!)].sort()).toEqual([0, 1, 2, 3]);
    const repeated = orders('line', {
      trialsPerSeat: 1,
      seats: 40,
      controls: { self: false, levelCatch: false, repeats: 1 },
    }).flat();
    for (const trial of repeated) {
      expect(trial.kind).toBe('judged');
      expect(trial.slots.length).toBe(5);
      expect(new Set(chainsOf(trial)).size).toBe(4);
    }
    const twice = repeated.map((trial) => {
      const chains = chainsOf(trial);
      return chains.find((chain, i) => chains.indexOf(chain) !== i) ?? -1;
    });
    expect(spread(twice)).toBe(0);
  });

  it('more clips than a line bears are shared out evenly', () => {
    const trials = orders('line', { chains: 12, trialsPerSeat: 3, seats: 12 }).flat();
    for (const trial of trials) expect(trial.slots.length).toBe(MOST_ON_A_LINE);
    expect(spread(trials.flatMap(chainsOf))).toBe(0);
  });

  it('against the reference: it returns each time, and may hide among the candidates once', () => {
    const controls = { self: true, levelCatch: false, repeats: 1 };
    for (const trials of orders('reference', { trialsPerSeat: 3, controls })) {
      expect(trials.length).toBe(5);
      for (const trial of trials) expect(trial.slots[0]!.chain).toBe(1);
      expect(trials.filter(({ kind }) => kind === 'self').length).toBe(1);
      expect(
        trials
          .filter(({ kind }) => kind === 'judged')
          .map((t) => t.slots[1]!.chain)
          .sort(),
      ).toEqual([0, 2, 3]);
    }
  });

  it('from memory: two are learned, then one of them comes, alone', () => {
    for (const [learning, ...trials] of orders('memory', { trialsPerSeat: 8 })) {
      expect(learning!.kind).toBe('learning');
      expect([...chainsOf(learning!)].sort()).toEqual([0, 2]);
      for (const trial of trials) {
        expect(chainsOf(learning!)[trial.right ?? -1]).toBe(trial.slots[0]!.chain);
      }
    }
  });

  it('words: every clip once a round, never the same twice running', () => {
    for (const trials of orders('words', { trialsPerSeat: 12 })) {
      expect(tally(trials.map((trial) => trial.slots[0]!.chain))).toEqual([3, 3, 3, 3]);
      for (let i = 1; i < trials.length; i++) {
        expect(trials[i]!.slots[0]!.chain).not.toBe(trials[i - 1]!.slots[0]!.chain);
      }
    }
  });

  it('pairs: the controls come once for each listener, going round over the clips', () => {
    const controls = { self: true, levelCatch: true, repeats: 2 };
    const drawn = orders('pair', { controls });
    for (const trials of drawn) {
      expect(tally(trials.map(({ kind }) => kind)).sort()).toEqual([1, 1, 2, 6]);
      const louder = trials.find(({ kind }) => kind === 'louder');
      expect(louder?.slots.map(({ gainDb }) => gainDb).sort()).toEqual([0, LOUDER_DB]);
      for (const repeat of trials.filter(({ kind }) => kind === 'repeat')) {
        const mirrored = [...chainsOf(repeat)].reverse().join();
        expect(trials.some((t) => t.kind === 'judged' && chainsOf(t).join() === mirrored)).toBe(
          true,
        );
      }
      for (let i = 1; i < trials.length; i++) {
        expect([...chainsOf(trials[i]!)].sort()).not.toEqual([...chainsOf(trials[i - 1]!)].sort());
      }
    }
    const selves = drawn.flatMap((trials) =>
      trials.filter(({ kind }) => kind === 'self').map((trial) => trial.slots[0]!.chain),
    );
    expect(spread(selves)).toBe(0);
  });
});

describe('a line that holds all', () => {
  it.each([3, 4, 6])('gives each of %i chains every place equally often', (chains) => {
    const trials = TASKS.line.orders(plan({ chains, seats: 2 * chains, trialsPerSeat: 1 })).flat();
    const places = new Map<string, number>();
    for (const { slots } of trials) {
      slots.forEach(({ chain }, at) => {
        places.set(`${chain}/${at}`, (places.get(`${chain}/${at}`) ?? 0) + 1);
      });
    }
    expect([...places.values()]).toEqual(new Array(chains * chains).fill(2));
  });
});

describe('likeness', () => {
  const heard = (change: Partial<OrderPlan>) => TASKS.likeness.orders(plan(change)).flat();

  it('names the reference first and lays every other beside it, each place equally often', () => {
    const trials = heard({ chains: 5, seats: 8, trialsPerSeat: 1, reference: 2 });
    const places = new Map<string, number>();
    for (const { slots } of trials) {
      expect(slots[0]!.chain).toBe(2);
      expect(slots.map(({ chain }) => chain).sort()).toEqual([0, 1, 2, 3, 4]);
      slots.forEach(({ chain }, at) => {
        places.set(`${chain}/${at}`, (places.get(`${chain}/${at}`) ?? 0) + 1);
      });
    }
    // Eight lines of four candidates: twice in each of four places.
    const counts = [...places].filter(([key]) => !key.startsWith('2/')).map(([, n]) => n);
    expect(counts).toEqual(new Array(16).fill(2));
  });

  it('hides the reference among the others when that is asked, and never lays more than eight', () => {
    const controls = { self: true, levelCatch: false, repeats: 0 };
    const trials = heard({ chains: 12, seats: 11, trialsPerSeat: 2, reference: 0, controls });
    const counts = new Array<number>(12).fill(0);
    for (const { slots } of trials) {
      expect(slots).toHaveLength(1 + MOST_ON_A_LINE);
      expect(slots.slice(1).filter(({ chain }) => chain === 0)).toHaveLength(1);
      for (const { chain } of slots.slice(1)) counts[chain]!++;
    }
    // 22 lines of seven out of eleven: each 14 times.
    expect(counts.slice(1)).toEqual(new Array(11).fill(14));
  });
});

describe('what an answer says', () => {
  const trial = (change: Partial<OpenedTrial>): OpenedTrial => ({
    kind: 'judged',
    chains: ['Kern', 'Tarn'],
    right: null,
    learned: [],
    gainsDb: [0, 0],
    ...change,
  });

  it('who was preferred; a control keeps what it was there for', () => {
    const { observe } = TASKS.pair;
    const chains = { chain: 'Kern', chainB: 'Tarn', first: 'a', louder: '' };
    expect(observe({ choice: 'second' }, trial({}))).toEqual([
      { kind: 'pair', role: 'judged', ...chains, response: 'b' },
    ]);
    expect(observe({ choice: 'tie' }, trial({}))).toMatchObject([{ response: 'tie' }]);
    const louder = trial({ kind: 'louder', chains: ['Kern', 'Kern'], gainsDb: [0, 1] });
    expect(observe({ choice: 'first' }, louder)).toMatchObject([
      { role: 'louder', louder: 'b', response: 'a' },
    ]);
  });

  it('the place of each slot of a line, a slip that lies there twice as a repeat', () => {
    const answer = { places: [10, 90, 12] };
    expect(TASKS.line.observe(answer, trial({ chains: ['Kern', 'Tarn', 'Kern'] }))).toMatchObject([
      { role: 'judged', chain: 'Kern', value: 10 },
      { role: 'judged', chain: 'Tarn', value: 90 },
      { role: 'repeat', chain: 'Kern', value: 12 },
    ]);
  });

  it('the place of the candidate, with what it was placed against', () => {
    const [said] = TASKS.reference.observe({ places: [70] }, trial({}));
    expect(said).toMatchObject({ kind: 'rating', chain: 'Tarn', against: 'Kern', value: 70 });
  });

  it('how near each came to the reference, and the reference itself as a control', () => {
    const answer = { places: [20, 95, 60] };
    const heard = trial({ chains: ['Kern', 'Tarn', 'Kern', 'Ostra'] });
    expect(TASKS.likeness.observe(answer, heard)).toMatchObject([
      { role: 'judged', chain: 'Tarn', value: 20, against: 'Kern', scale: 'likeness' },
      { role: 'self', chain: 'Kern', value: 95 },
      { role: 'judged', chain: 'Ostra', value: 60 },
    ]);
  });

  it('whether it was right, with the pair in order', () => {
    const twin = trial({ chains: ['Tarn', 'Kern', 'Tarn'], right: 2 });
    const pair = { role: 'judged', chain: 'Kern', chainB: 'Tarn' };
    expect(TASKS['duo-trio'].observe({ slot: 2 }, twin)).toEqual([
      { kind: 'forced', task: 'duo-trio', ...pair, correct: true },
    ]);
    expect(TASKS.triangle.observe({ slot: 0 }, { ...twin, right: 1 })).toMatchObject([
      { correct: false },
    ]);
    const remembered = trial({ chains: ['Tarn'], learned: ['Tarn', 'Kern'], right: 0 });
    expect(TASKS.memory.observe({ slot: 0 }, remembered)).toEqual([
      { kind: 'recall', ...pair, correct: true },
    ]);
    expect(TASKS.memory.observe({ learned: true }, { ...remembered, kind: 'learning' })).toEqual(
      [],
    );
  });

  it('which words were ticked', () => {
    const answer = { words: ['dark', 'full'] };
    expect(TASKS.words.observe(answer, trial({ chains: ['Kern'] }))).toEqual([
      { kind: 'ticks', role: 'judged', chain: 'Kern', words: ['dark', 'full'] },
    ]);
  });
});

it('words for tone and for stereo are each told once', () => {
  const all = [...TONAL_WORDS, ...STEREO_WORDS];
  expect(new Set(all).size).toBe(all.length);
});
