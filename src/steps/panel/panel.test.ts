import { readdirSync } from 'node:fs';
import path from 'node:path';
import { db, transaction } from '@/platform/database';
import { migrate } from '@/platform/migrate';
import { markClosed } from '@/steps/sitting/store';
import { LIST_PAGE } from '@/platform/list-query';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { bankWithClips, openTestSitting } from '@/steps/test/bank';
import { panelQuery } from './schema';
import { addPanelist, panelOf } from './service';

withTestDatabase();

const PEOPLE = 60;
let engineer: SignedIn;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  for (let i = 1; i <= PEOPLE; i++) {
    const experience = i % 3 === 0 ? 'plays the Cello' : 'listens';
    const alias = `${i % 2 === 0 ? 'Ear' : 'ear'} ${String(i).padStart(2, '0')}`;
    await addPanelist(engineer, { alias, experience, hearing: '', playback: '' }, NOON);
  }
});

const asked = (given: Record<string, unknown>) => panelOf(engineer, panelQuery.parse(given));

it('is paged: everybody once, by name, whatever the letters', async () => {
  const pages = [await asked({}), await asked({ page: '2' }), await asked({ page: 3 })];
  expect(pages.map(({ people }) => people.length)).toEqual([LIST_PAGE, LIST_PAGE, 10]);
  const names = pages.flatMap(({ people }) => people.map(({ alias }) => alias.toLowerCase()));
  expect(names).toEqual(
    Array.from({ length: PEOPLE }, (_, i) => `ear ${String(i + 1).padStart(2, '0')}`),
  );
  expect((await asked({ page: 9 })).people).toEqual([]);
});

it('is searched in names and words, letters alike, signs as they are', async () => {
  expect(await asked({ q: 'cello' })).toMatchObject({ found: 20, all: PEOPLE });
  expect((await asked({ q: 'EAR 07' })).people.map(({ alias }) => alias)).toEqual(['ear 07']);
  expect((await asked({ q: '%' })).found).toBe(0);
  expect((await asked({ sort: 'price', page: '-1', q: ['x'] })).query).toEqual({
    q: '',
    sort: 'name',
    page: 1,
  });
});

it('counts what each gave, and sorts by who listened last', async () => {
  const { comparisonId } = await bankWithClips(engineer);
  const { sittingId } = await openTestSitting(engineer, comparisonId);
  const { id } = (await asked({ q: 'ear 41' })).people[0]!;
  await db().rows(
    `INSERT INTO listener (sitting_id, seat, alias, alias_key, consented_at, panelist_id)
     VALUES ($1, 1, 'x', 'x', $2, $3)`,
    [sittingId, NOON, id],
  );
  await db().rows(
    `INSERT INTO answer (listener_id, sitting_id, seat, position, answer, idempotency_key, heard_s,
       switches, duration_s, answered_at)
     SELECT id, sitting_id, 1, position, '{"choice":"tie"}', gen_random_uuid(), '{4,4}', 1, 90, $2
     FROM listener, generate_series(1, 2) AS position WHERE sitting_id = $1`,
    [sittingId, NOON],
  );
  const list = await asked({ sort: 'last' });
  expect(list.people[0]).toMatchObject({
    alias: 'ear 41',
    sittings: 1,
    answers: 2,
    minutes: 3,
    lastAt: NOON,
  });
  expect(list).toMatchObject({ all: PEOPLE, minutes: 3 });
  expect(list.people[1]).toMatchObject({ sittings: 0, answers: 0, minutes: 0, lastAt: null });

  // Closed, it is summed up once; it says the same, and so does a bank that was closed before that was done.
  await transaction((tx) => markClosed(tx, sittingId, NOON));
  expect(await asked({ sort: 'last' })).toEqual(list);
  const kept = async () =>
    db().rows(
      'SELECT given_answers, given_seconds, given_at FROM listener WHERE panelist_id = $1',
      [id],
    );
  expect(await kept()).toEqual([{ given_answers: 2, given_seconds: 180, given_at: NOON }]);
  const root = path.resolve(__dirname, '../../..');
  const since = readdirSync(path.join(root, 'db/migrations')).filter(
    (name) => name >= '0021',
  ).length;
  await migrate(process.env.DATABASE_URL ?? '', root, since);
  expect(await asked({ sort: 'last' })).toEqual(list);
  await migrate(process.env.DATABASE_URL ?? '', root);
  expect(await asked({ sort: 'last' })).toEqual(list);
  expect(await kept()).toEqual([{ given_answers: 2, given_seconds: 180, given_at: NOON }]);
});

it('shows nobody of another studio', async () => {
  const stranger = await testEngineer('Somebody Else');
  expect(await panelOf(stranger, panelQuery.parse({}))).toMatchObject({
    people: [],
    found: 0,
    all: 0,
    minutes: 0,
  });
});
