import { Random } from '@/core/signal/random';
import { panelOf } from '@/core/simulation/panel-power';
import { TASK_IDS, TASKS } from '@/core/tasks';
import { type Claim, holds } from '../claims';
import { findingsOf, readAll, SECTIONS } from '.';

/** Whatever claims that something is so: of chains, of words, of two told apart. */
const CLAIMS =
  /is preferred|chains differ|differs? between|best is one of|is placed best|stands highest|comes nearest|was found to have it|^Placed|(is|are|can be) told apart|pairs can be told/i;
/** What is said where nothing is shown. */
const SILENT = /not shown|No |None of|Nothing|too few|too little|never compared|no order/i;

const NEW = (seed: number) => new Random(seed);
const PANELS = 8;

/** A panel of a task: nobody hears anything, or the difference is large. */
function panel(task: (typeof TASK_IDS)[number], seed: number) {
  const random = NEW(seed);
  const { power, line, ofOnePair } = TASKS[task];
  const chains = ofOnePair ? 2 : line || task === 'words' ? 4 : 3;
  const large = seed % 2 === 0;
  const { least, most } = power!.stated;
  const level = { pair: 0.5, words: 0.2 }[task as string] ?? 0;
  const effect =
    (large ? Math.min(most, least + 0.8 * (most - least)) : level) * power!.stated.times;
  const listeners = 1 + random.below(14);
  const own = panelOf(
    {
      task,
      chains,
      seats: listeners,
      together: false,
      trials: 4 + random.below(5),
      tiesAllowed: task === 'pair' && random.below(2) === 0,
      controls: { self: false, levelCatch: false, repeats: 0 },
      words: ['warm', 'bright', 'nasal'],
      effect: large ? effect : level,
    },
    random,
  );
  return { own, listeners };
}

describe.each(TASK_IDS)('sentences of %s', (task) => {
  const { section, line } = TASKS[task];
  it.each(Array.from({ length: PANELS }, (_, seed) => seed))(
    'panel %i: claim nothing that the claim does not carry',
    (seed) => {
      const { own, listeners } = panel(task, seed);
      const { results } = readAll(own, { seed: 1, made: null });
      const p = SECTIONS[section].headlineP(results);
      const claims: Claim[] = [
        { p, among: 1, open: true },
        // As one of eight, and behind a primary part that is silent.
        { p: p === null ? null : Math.min(1, 8 * p), among: 8, open: true },
        { p, among: 8, open: false },
        { p: null, among: 1, open: true },
      ];
      for (const claim of claims) {
        const said = findingsOf(section, results, {
          listeners,
          answers: own.length,
          source: 'voice',
          passage: 'verse',
          said: line?.said ?? null,
          claim,
        });
        const headline = said?.headline ?? '';
        expect(headline).toMatch(/[.]$/);
        expect(JSON.stringify(said)).not.toMatch(/NaN|undefined|Infinity/);
        if (CLAIMS.test(headline) && !SILENT.test(headline)) expect(holds(claim)).toBe(true);
        if (!holds(claim)) expect(headline).toMatch(SILENT);
      }
    },
  );
});

it('and claim something where it is plain to hear', () => {
  const headlines = TASK_IDS.map((task) => {
    const own = Array.from({ length: 6 }, (_, i) => panel(task, 2 * i));
    return own.some(({ own: answers, listeners }) => {
      const { results } = readAll(answers, { seed: 1, made: null });
      const { section, line } = TASKS[task];
      const claim = { p: SECTIONS[section].headlineP(results), among: 1, open: true };
      const where = { listeners, answers: answers.length, source: 'voice', passage: 'verse' };
      const said = findingsOf(section, results, { ...where, said: line?.said ?? null, claim });
      return CLAIMS.test(said?.headline ?? '');
    });
  });
  expect(headlines).toEqual(TASK_IDS.map(() => true));
});
