import { randomUUID } from 'node:crypto';
import { createComparison } from '@/steps/comparisons/service';
import { db, transaction } from './database';
import { enqueue } from './jobs';
import { announce, live, type LiveEvent } from './live';
import { NOON, testEngineer, withTestDatabase } from './test/database';

withTestDatabase();
afterAll(() => live().end());

async function until(check: () => boolean | Promise<boolean>): Promise<void> {
  for (let i = 0; i < 100; i++) {
    if (await check()) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('did not happen within 10 s');
}

/** Whether the listening connection is there. */
async function listening(): Promise<boolean> {
  const rows = await db().rows(
    `SELECT 1 FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'LISTEN%'`,
  );
  return rows.length > 0;
}

it('tells at once what changed after the mark was taken', async () => {
  const id = randomUUID();
  live().mark(id);
  await until(listening);
  const before = live().mark(id);
  expect(live().mark(id)).toBe(before);
  await announce(db(), id);
  await until(() => live().mark(id) !== before);
  const told: LiveEvent['kind'][] = [];
  live().subscribe(id, before, ({ kind }) => told.push(kind))();
  live().subscribe(id, live().mark(id), ({ kind }) => told.push(kind))();
  expect(told).toEqual(['changed']);
});

it('reaches the screens of the comparison and no others, and outlives a lost connection', async () => {
  const [mine, other] = [randomUUID(), randomUUID()];
  const told: LiveEvent['kind'][] = [];
  const leave = live().subscribe(mine, live().mark(mine), ({ kind }) => told.push(kind));
  await until(listening);
  await announce(db(), other);
  await announce(db(), mine);
  await until(() => told.length > 0);
  expect(told).toEqual(['changed']);

  await db().rows(
    `SELECT pg_terminate_backend(pid) FROM pg_stat_activity
     WHERE datname = current_database() AND query LIKE 'LISTEN%'`,
  );
  await until(() => told.includes('back'));
  expect(told).toEqual(['changed', 'away', 'back']);
  await announce(db(), mine);
  await until(() => told.length === 4);

  leave();
  await announce(db(), mine);
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect(told.length).toBe(4);
});

it('tells the queue of a new job once its transaction is through, and no other queue', async () => {
  const engineer = await testEngineer('Mirela Voss');
  const draft = { title: 'Test', question: '', sourceName: 'Noise', passageName: 'all' };
  const comparisonId = await createComparison(engineer, draft, NOON);
  const told: string[] = [];
  const leave = (['relate-takes', 'unpack-archive'] as const).map((queue) =>
    live().subscribe(queue, live().mark(queue), () => told.push(queue)),
  );
  await until(() => live().mark('relate-takes') !== 'unknown');
  told.length = 0;
  await transaction(async (tx) => {
    const subject = { comparisonId, subjectId: comparisonId, label: 'test' };
    await enqueue(tx, 'relate-takes', subject, NOON);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(told).toEqual([]);
  });
  await until(() => told.length > 0);
  leave.forEach((end) => end());
  expect(told).toEqual(['relate-takes']);
});
