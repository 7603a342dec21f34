import { db, pool } from '@/platform/database';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { LIST_PAGE } from '@/platform/list-query';
import { comparisonQuery } from '@/steps/comparisons/schema';
import { insertComparison } from '@/steps/comparisons/store';
import { comparisonList, overviewOf } from './service';

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
  const line = async () => (await comparisonList(engineer, asked({}))).lines[0];
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
  expect(queries).toBeLessThanOrEqual(6);
  expect(await count(await studioOfMany())).toBe(queries);
});
