import { randomUUID } from 'node:crypto';
import { db, transaction } from './database';
import { enqueue, markProgress, openJobs, tidyProgress } from './jobs';
import { NOON, testEngineer, withTestDatabase } from './test/database';
import { insertComparison } from '@/steps/comparisons/store';

withTestDatabase();

const DAY_MS = 24 * 3600 * 1000;

async function aComparison(): Promise<string> {
  const { studioId } = await testEngineer(`Working ${Math.random()}`);
  const draft = { title: 'Work', question: '', sourceName: 'Cello', passageName: 'all' };
  return insertComparison(db(), studioId, draft, false, NOON);
}

async function order(comparisonId: string) {
  const subjectId = randomUUID();
  const subject = { comparisonId, subjectId, label: 'cello.wav' };
  await transaction((tx) => enqueue(tx, 'inspect-take', subject, NOON));
  const open = await openJobs(db(), comparisonId);
  const own = open.find(({ subject_id }) => subject_id === subjectId);
  if (!own) throw new Error('it was not put down');
  return own;
}

it('is found by what it is about, also where two are called the same', async () => {
  const comparisonId = await aComparison();
  const [one, two] = [await order(comparisonId), await order(comparisonId)];
  await markProgress(db(), two.job_id, { state: 'running', progress: 0.5 }, NOON);
  const open = await openJobs(db(), comparisonId);
  expect(open.map(({ subject_id, progress }) => [subject_id, progress]).sort()).toEqual(
    [
      [one.subject_id, 0],
      [two.subject_id, 0.5],
    ].sort(),
  );
});

it('leaves nothing behind when what ordered it is taken back', async () => {
  const comparisonId = await aComparison();
  const subject = { comparisonId, subjectId: randomUUID(), label: 'x' };
  const broken = transaction(async (tx) => {
    await enqueue(tx, 'inspect-take', subject, NOON);
    throw new Error('and then not');
  });
  await expect(broken).rejects.toThrow('and then not');
  expect(await openJobs(db(), comparisonId)).toEqual([]);
  const jobs = await db().rows(`SELECT 1 FROM pgboss.job WHERE data ->> 'subjectId' = $1`, [
    subject.subjectId,
  ]);
  expect(jobs).toEqual([]);
});

it('is forgotten a month after it ended, and never while it goes on', async () => {
  const comparisonId = await aComparison();
  const [ended, failed, lately] = [
    await order(comparisonId),
    await order(comparisonId),
    await order(comparisonId),
  ];
  const waiting = await order(comparisonId);
  await markProgress(db(), ended.job_id, { state: 'done', progress: 1 }, NOON);
  await markProgress(db(), failed.job_id, { state: 'failed', progress: 1, remark: 'no' }, NOON);
  const later = new Date(NOON.getTime() + 31 * DAY_MS);
  await markProgress(
    db(),
    lately.job_id,
    { state: 'done', progress: 1 },
    new Date(later.getTime() - DAY_MS),
  );
  expect(await tidyProgress(db(), later)).toBe(2);
  const left = await db().rows<{ id: string }>('SELECT id FROM work WHERE comparison_id = $1', [
    comparisonId,
  ]);
  expect(left.map(({ id }) => id).sort()).toEqual([lately.id, waiting.id].sort());
});

it('stays ended when an earlier word of it comes late', async () => {
  const comparisonId = await aComparison();
  const { job_id: jobId } = await order(comparisonId);
  await markProgress(db(), jobId, { state: 'done', progress: 1 }, NOON);
  await markProgress(db(), jobId, { state: 'running', progress: 0.9 }, NOON);
  expect(await openJobs(db(), comparisonId)).toEqual([]);
});
