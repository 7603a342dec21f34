import { existsSync } from 'node:fs';
import path from 'node:path';
import { db, pool } from '@/platform/database';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { LIST_PAGE } from '@/platform/list-query';
import order from '@/steps/order.json';
import { chainsStep } from '@/steps/chains/step';
import { decisionStep } from '@/steps/decision/step';
import { matchStep } from '@/steps/match/step';
import { sittingStep } from '@/steps/sitting/step';
import type { Step } from '@/steps/step';
import { takesStep } from '@/steps/takes/step';
import { comparisonQuery } from '@/steps/comparisons/schema';
import { insertComparison } from '@/steps/comparisons/store';
import { comparisonList, overviewOf } from './service';
import { nextStep, STEPS } from './steps';

withTestDatabase();

const MANY = 2 * LIST_PAGE + 7;

async function start(owner: string, title: string, minutes: number): Promise<string> {
  const draft = { title, question: '', sourceName: 'Cello', passageName: 'end' };
  const at = new Date(NOON.getTime() + 60_000 * minutes);
  return insertComparison(db(), owner, draft, false, at);
}

async function studioOfMany() {
  const engineer = await testEngineer(`Owner ${Math.random()}`);
  // Titles fall while times rise, and several were started in the same minute.
  for (let i = 0; i < MANY; i++) {
    await start(engineer.studioId, `${i % 2 ? 'q' : 'Q'}uestion ${100 - i}`, Math.floor(i / 4));
  }
  return engineer;
}

const asked = (given: Record<string, unknown>) => comparisonQuery.parse(given);

it('pages through every comparison once, in each order', async () => {
  const engineer = await studioOfMany();
  for (const sort of ['newest', 'oldest', 'title']) {
    const titles: string[] = [];
    for (const page of [1, 2, 3]) {
      const list = await comparisonList(engineer, asked({ sort, page: String(page) }));
      expect(list).toMatchObject({ found: MANY, all: MANY });
      titles.push(...list.lines.map(({ title }) => title.toLowerCase()));
    }
    expect(new Set(titles).size).toBe(MANY);
    expect(titles).toHaveLength(MANY);
    if (sort === 'title') expect(titles).toEqual([...titles].sort());
    else expect(titles[sort === 'newest' ? MANY - 1 : 0]).toMatch(/^question (97|98|99|100)$/);
  }
});

it('gives the last page to whoever asks behind it, and the first to whoever asks oddly', async () => {
  const engineer = await studioOfMany();
  const behind = await comparisonList(engineer, asked({ page: '99' }));
  expect(behind.query.page).toBe(3);
  expect(behind.lines).toHaveLength(7);
  const odd = await comparisonList(engineer, asked({ page: '-1', sort: 'owner_id; --', q: ['a'] }));
  expect(odd.query).toEqual({ q: '', sort: 'newest', page: 1 });
  expect(odd.lines).toHaveLength(LIST_PAGE);
});

it('finds a text as it is written, in any case, and nobody else’s', async () => {
  const engineer = await testEngineer('Searching');
  const other = await testEngineer('Elsewhere');
  await start(engineer.studioId, '100% Wool_felt', 1);
  await start(engineer.studioId, 'Rafters', 2);
  await start(other.studioId, '100% theirs', 3);
  const found = async (q: string) =>
    (await comparisonList(engineer, asked({ q }))).lines.map(({ title }) => title);
  expect(await found('100%')).toEqual(['100% Wool_felt']);
  expect(await found('wool_')).toEqual(['100% Wool_felt']);
  expect(await found('%')).toEqual(['100% Wool_felt']);
  expect(await found("'; DROP TABLE comparison; --")).toEqual([]);
  expect(await found('cello')).toHaveLength(2);
  expect(await comparisonList(engineer, asked({ q: 'nowhere' }))).toMatchObject({
    found: 0,
    all: 2,
    lines: [],
  });
});

it('says the same next step as the comparison’s own page', async () => {
  const engineer = await testEngineer('Standing');
  const id = await start(engineer.studioId, 'Two chains', 0);
  const line = async () => (await comparisonList(engineer, asked({}))).lines[0]!;
  const same = async () => {
    const { next } = await overviewOf(engineer, id);
    expect((await line()).next).toBe(next.text);
    return next.step;
  };
  expect(await same()).toBe('chains');
  await db().rows(
    `INSERT INTO chain (comparison_id, position, name) VALUES ($1, 1, 'A'), ($1, 2, 'B')`,
    [id],
  );
  expect(await same()).toBe('takes');
  expect(await line()).toMatchObject({ chains: 2, listeners: 0, answers: 0 });
});

it('takes as many queries for many as for few', async () => {
  const count = async (engineer: Awaited<ReturnType<typeof testEngineer>>) => {
    const spy = jest.spyOn(pool(), 'query');
    await comparisonList(engineer, asked({}));
    const queries = spy.mock.calls.length;
    spy.mockRestore();
    return queries;
  };
  const few = await testEngineer('Few');
  await start(few.studioId, 'One', 0);
  const queries = await count(few);
  expect(queries).toBeLessThanOrEqual(7);
  expect(await count(await studioOfMany())).toBe(queries);
});

describe('steps', () => {
  it('each have a page of their name, and rest on earlier ones only', () => {
    const pages = path.resolve('src/app/(engineer)/comparisons/[id]');
    for (const { id, title } of STEPS) {
      expect(existsSync(path.join(pages, id, 'page.tsx'))).toBe(true);
      expect(title.toLowerCase()).toBe(id);
    }
    const folders = STEPS.map(({ id }) => order.indexOf(id === 'question' ? 'comparisons' : id));
    expect(folders).toEqual([...folders].sort((a, b) => a - b));
    for (const [i, step] of STEPS.entries()) {
      step.look((asked) => {
        expect(STEPS.findIndex(({ id }) => id === asked.id)).toBeLessThanOrEqual(i);
        return asked.nothing;
      });
    }
  });

  const CHAINS = [chainsStep, { chains: 2 }] as const;
  const TAKES = [takesStep, { takes: 2, assigned: 2, simulated: 0 }] as const;
  const READY = [matchStep, { sets: 1, worstResidualLu: 0.004, being: false }] as const;
  const BEING = [matchStep, { sets: 1, worstResidualLu: null, being: true }] as const;
  const sitting = (change: object) =>
    [sittingStep, { ...sittingStep.nothing, sittings: 1, ...change }] as const;
  const OPEN = { sealed: true, open: true };
  const DECIDED = [decisionStep, { versions: 1, due: false }] as const;
  const DUE = [decisionStep, { versions: 1, due: true }] as const;
  const CLOSED = { sealed: true, closed: true };
  it.each([
    ['chains', []],
    ['takes', [CHAINS]],
    ['match', [CHAINS, TAKES]],
    ['match', [CHAINS, TAKES, BEING]],
    ['sitting', [CHAINS, TAKES, READY]],
    ['sitting', [CHAINS, TAKES, READY, sitting({})]],
    ['sitting', [CHAINS, TAKES, READY, sitting(OPEN)]],
    // While one is open its panel comes first, whatever was closed before.
    ['sitting', [CHAINS, TAKES, READY, sitting({ ...OPEN, ...CLOSED })]],
    ['decision', [CHAINS, TAKES, READY, sitting(CLOSED)]],
    // Whoever names a third chain after the panel has its clips, and its answers.
    ['decision', [[chainsStep, { chains: 3 }], TAKES, READY, sitting(CLOSED)]],
    // Once it is written nothing is left, until it is time to listen again.
    ['decision', [CHAINS, TAKES, READY, sitting(CLOSED), DECIDED]],
    ['decision', [CHAINS, TAKES, READY, sitting(CLOSED), DUE]],
  ] as const)('say that %s is next (%#)', (next, given) => {
    const known = <Figures>(asked: Step<string, Figures>) =>
      (given.find(([step]) => step.id === asked.id)?.[1] as Figures | undefined) ?? asked.nothing;
    expect(nextStep(known).step).toBe(next);
    expect(nextStep(known).text).toMatch(/\.$/);
  });
});
