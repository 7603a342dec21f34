// What is claimed where nothing is so, and whether a plan's promises are kept: `node bench/run.mjs claims [panels]`.
import { Random } from '@/core/signal/random';
import { leaning } from '@/core/simulation/leaning';
import { panelOf, readPanel, simulatedPower } from '@/core/simulation/panel-power';
import { claimsOf, holds } from '@/core/statistics/claims';
import { judged } from '@/core/statistics/observation';
import { indexJudgements } from '@/core/statistics/pair/judgements';
import { pairTable } from '@/core/statistics/pair/tests';
import type { Results } from '@/core/statistics/results';
import { SECTIONS } from '@/core/statistics/sections';
import { ALPHA } from '@/core/statistics/words';
import { type TaskId, TASKS } from '@/core/tasks';
import type { PowerQuestion } from '@/core/tasks/task';

const PANELS = Number(process.argv[2] ?? 2000);
/** By the whole section: resampling and the d′ of each listener take long. */
const wholeOf = (task: TaskId) =>
  Math.ceil(PANELS / (['pair', 'triangle', 'duo-trio'].includes(task) ? 8 : 1));

type Question = PowerQuestion & { task: TaskId };
const asked = (task: TaskId, change: Partial<Question>): Question => ({
  task,
  chains: 4,
  seats: 12,
  together: false,
  trials: 6,
  tiesAllowed: false,
  controls: { self: false, levelCatch: false, repeats: 0 },
  words: ['warm', 'bright', 'nasal', 'thin', 'full', 'harsh', 'airy', 'dull'],
  effect: 0,
  ...change,
});
const percent = (share: number) => `${(100 * share).toFixed(1)} %`.padStart(8);
const print = (text: string) => process.stdout.write(`${text}\n`);

print(`Nothing differs, ${PANELS} panels (standard error 0.5 points): the headline claims`);
const LEVEL: [string, Question][] = [
  ['pair, 4 chains', asked('pair', { effect: 0.5 })],
  ['pair, 4 chains, in a room', asked('pair', { effect: 0.5, together: true })],
  [
    'pair, 6 chains, 24 listeners',
    asked('pair', { chains: 6, seats: 24, trials: 15, effect: 0.5 }),
  ],
  ['line, 4', asked('line', { trials: 1 })],
  ['line, 10, two lines each', asked('line', { chains: 10, trials: 2 })],
  ['against the reference, 3 candidates', asked('reference', {})],
  ['likeness, 3 candidates', asked('likeness', { trials: 1 })],
  ['duo-trio', asked('duo-trio', { chains: 2 })],
  ['triangle', asked('triangle', { chains: 2 })],
  ['two-interval', asked('two-interval', { chains: 2 })],
  ['from memory', asked('memory', { chains: 2 })],
  ['words, a list of 8', asked('words', { trials: 4, effect: 0.2 })],
];
for (const [name, question] of LEVEL) {
  const { found, named } = simulatedPower(question, PANELS, new Random(1))!;
  print(`  ${percent(found)}  ${name}; names the first ${percent(named).trim()}`);
}

print(
  `\nA room where nobody hears anything, but all lean to the same places (12 and 24 listeners): the headline claims`,
);
const ROOMS: [TaskId, chains: number, trials: number][] = [
  ['pair', 2, 2],
  ['pair', 4, 6],
  ['pair', 6, 15],
  ['line', 4, 4],
  ['line', 5, 5],
  ['likeness', 4, 3],
  ['reference', 4, 6],
  ['duo-trio', 2, 6],
  ['triangle', 2, 6],
  ['two-interval', 2, 6],
  ['memory', 2, 6],
  ['words', 4, 4],
];
for (const [task, chains, trials] of ROOMS) {
  const { orders, section, ofOnePair } = TASKS[task];
  const shares = [12, 24].map((seats) => {
    const own = new Random(6);
    const { controls, words } = asked(task, {});
    let found = 0;
    for (let run = 0; run < PANELS; run++) {
      const [order] = orders({
        chains,
        seats: 1,
        together: true,
        trialsPerSeat: trials,
        pair: ofOnePair ? [0, 1] : null,
        reference: chains - 1,
        controls,
        random: own,
      });
      const panel = readPanel(
        task,
        Array.from({ length: seats }, () => order!),
        () => leaning(task, words, own),
      );
      const { p } = SECTIONS[section].verdict!(panel);
      if (p !== null && p < ALPHA) found++;
    }
    return percent(found / PANELS);
  });
  print(`  ${shares.join(' ')}  ${TASKS[task].name}, ${chains} chains, ${trials} trials`);
}

print(
  `\nSingle claims where nothing differs, ${PANELS} panels of 12: a pair is shown; a control is called`,
);
const own = new Random(8);
const CONTROLLED = asked('pair', {
  effect: 0.5,
  controls: { self: true, levelCatch: true, repeats: 1 },
});
const claims = { pair: 0, self: 0, levelCatch: 0 };
for (let run = 0; run < PANELS; run++) {
  const panel = panelOf(CONTROLLED, own);
  const { result } = SECTIONS.controls.read(panel, { seed: 1, made: null });
  if (result.self?.p != null && result.self.p < ALPHA) claims.self++;
  if (result.levelCatch?.p != null && result.levelCatch.p < ALPHA) claims.levelCatch++;
  const judgements = panel.filter(judged.pair);
  const { p } = SECTIONS.pair.verdict!(panel);
  if (p === null || p >= ALPHA) continue;
  if (pairTable(indexJudgements(judgements)).some(({ pListenerHolm }) => pListenerHolm < ALPHA)) {
    claims.pair++;
  }
}
print(`  ${percent(claims.pair / PANELS)}  some single pair, of six`);
print(`  ${percent(claims.self / PANELS)}  a clip against itself`);
print(
  `  ${percent(claims.levelCatch / PANELS)}  a clip 1 dB louder, where nobody follows loudness`,
);

print(`\nA sitting of eight level parts of pairs, ${PANELS} sittings: anything is claimed`);
const random = new Random(2);
const sum = { primary: 0, apart: 0 };
for (let run = 0; run < PANELS; run++) {
  const ps = Array.from({ length: 8 }, () => {
    const panel = panelOf(asked('pair', { effect: 0.5 }), random);
    return SECTIONS.pair.verdict!(panel).p;
  });
  if (claimsOf(ps, 1).some(holds)) sum.primary++;
  if (claimsOf(ps, null).some(holds)) sum.apart++;
}
print(`  ${percent(sum.primary / PANELS)}  with a primary part`);
print(`  ${percent(sum.apart / PANELS)}  each read alone`);

print(
  `\nPromise of ${PANELS} panels, and what others show by the whole section (found, named; how many)`,
);
const PROMISES: [string, Question][] = [
  ['pair, 4 chains, 70 %', asked('pair', { effect: 0.7 })],
  ['pair, 4 chains, 6 listeners, 94 %', asked('pair', { seats: 6, effect: 0.94 })],
  ['pair, 6 chains, 75 %', asked('pair', { chains: 6, seats: 16, trials: 15, effect: 0.75 })],
  ['line of 4, 15 points', asked('line', { trials: 1, effect: 15 })],
  ['line of 8, 15 points', asked('line', { chains: 8, trials: 1, effect: 15 })],
  ['10 on two lines, 15 points', asked('line', { chains: 10, trials: 2, effect: 15 })],
  ['reference, 12 points', asked('reference', { effect: 12, trials: 9 })],
  ['duo-trio, d′ 1.5', asked('duo-trio', { chains: 2, effect: 1.5 })],
  ['triangle, d′ 1.5', asked('triangle', { chains: 2, effect: 1.5 })],
  ['two-interval, d′ 0.7', asked('two-interval', { chains: 2, effect: 0.7 })],
  ['memory, d′ 1', asked('memory', { chains: 2, effect: 1 })],
  ['words, 60 against 20 %', asked('words', { trials: 4, effect: 0.6 })],
];
for (const [name, question] of PROMISES) {
  const promised = simulatedPower(question, PANELS, new Random(3))!;
  // As many others by the same tests; that these are those of the whole section is held by a test.
  const others = simulatedPower(question, PANELS, new Random(7))!;
  const { section, power } = TASKS[question.task];
  const wanted = power!.names(question);
  const own = new Random(4);
  const whole = wholeOf(question.task);
  const shown = { found: 0, named: 0 };
  for (let run = 0; run < whole; run++) {
    const panel = panelOf(question, own);
    const { result } = SECTIONS[section].read(panel, { seed: 1, made: null });
    const p = SECTIONS[section].headlineP({ [section]: result } as unknown as Results);
    if (p === null || p >= ALPHA) continue;
    shown.found++;
    if (SECTIONS[section].verdict!(panel).named().includes(wanted)) shown.named++;
  }
  print(
    `  ${percent(promised.found)} ${percent(promised.named)}   ${percent(others.found)} ${percent(others.named)}   ${percent(shown.found / whole)} ${percent(shown.named / whole)}   ${name} (${whole})`,
  );
}
