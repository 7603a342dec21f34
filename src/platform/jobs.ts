import PgBoss from 'pg-boss';
import { announce } from './live';
import { one } from './one';
import { config } from './config';
import { type Db, dbOf, pool, type Tx } from './database';

/** Queues and what a job of each is about: always the id of a row. */
export const QUEUES = [
  'inspect-take',
  'unpack-archive',
  'relate-takes',
  'record-takes',
  'render-clips',
  'analyse-sitting',
  'forecast-panel',
] as const;
export type Queue = (typeof QUEUES)[number];

const EXPIRE_S = 3600;
export const RETRIES = 5;

const shared = globalThis as { zeitbankBoss?: Promise<PgBoss> };

/** A client that only sends: supervision is the worker's. */
async function sender(): Promise<PgBoss> {
  shared.zeitbankBoss ??= (async () => {
    const boss = new PgBoss({
      db: { executeSql: (text, values) => pool().query(text, values as unknown[]) },
      supervise: false,
      schedule: false,
      migrate: false,
    });
    boss.on('error', () => undefined);
    await boss.start();
    return boss;
  })();
  return shared.zeitbankBoss.catch((error: unknown) => {
    shared.zeitbankBoss = undefined;
    throw error;
  });
}

export interface JobProgress {
  id: string;
  queue: Queue;
  job_id: string;
  subject_id: string;
  comparison_id: string;
  label: string;
  state: 'waiting' | 'running' | 'done' | 'failed';
  progress: number;
  remark: string | null;
}

/**
 * Puts a job into the queue and its progress row beside it, in the caller's transaction.
 * @param priority those with a higher one are begun first
 */
export async function enqueue(
  tx: Tx,
  queue: Queue,
  subject: { comparisonId: string; subjectId: string; label: string },
  at: Date,
  priority = 0,
): Promise<void> {
  const boss = await sender();
  const jobId = await boss.send(
    queue,
    { subjectId: subject.subjectId },
    {
      priority,
      retryLimit: RETRIES,
      retryDelay: 1,
      expireInSeconds: EXPIRE_S,
      db: {
        executeSql: async (text, values) => ({
          rows: await tx.rows(text, values as (string | number)[]),
        }),
      },
    },
  );
  if (jobId === null) throw new Error(`the job for ${queue} was not taken`);
  await tx.rows(
    `INSERT INTO work (comparison_id, queue, job_id, subject_id, label, updated_at)
     VALUES ($1, $2, $3, $4, $5, $6)`,
    [subject.comparisonId, queue, jobId, subject.subjectId, subject.label, at],
  );
  await announce(tx, subject.comparisonId);
  await announce(tx, queue);
}

/** Work of a comparison that is not done, oldest first. */
export async function openJobs(db: Db, comparisonId: string): Promise<JobProgress[]> {
  return db.rows<JobProgress>(
    `SELECT id, queue, job_id, subject_id, comparison_id, label, state, progress, remark FROM work
     WHERE comparison_id = $1 AND state IN ('waiting', 'running') ORDER BY updated_at`,
    [comparisonId],
  );
}

/** Jobs that are not done, over the whole bank. */
export async function openWork(
  db: Db,
): Promise<{ waiting: number; running: number; oldestWaiting: Date | null }> {
  return one(
    db.rows<{ waiting: number; running: number; oldestWaiting: Date | null }>(
      `SELECT (count(*) FILTER (WHERE state = 'waiting'))::int AS waiting, (count(*) FILTER (WHERE state = 'running'))::int AS running,
         min(updated_at) FILTER (WHERE state = 'waiting') AS "oldestWaiting" FROM work WHERE state IN ('waiting', 'running')`,
    ),
  );
}

/** Says how far a job is. What has ended does not run again because an earlier word came late. */
export async function markProgress(
  db: Db,
  jobId: string,
  change: { state: JobProgress['state']; progress: number; remark?: string },
  at: Date,
): Promise<void> {
  const rows = await db.rows<{ comparison_id: string }>(
    `UPDATE work SET state = $2, progress = $3, remark = $4, updated_at = $5
     WHERE job_id = $1 AND ($2 <> 'running' OR state IN ('waiting', 'running')) RETURNING comparison_id`,
    [jobId, change.state, change.progress, change.remark ?? null, at],
  );
  for (const { comparison_id } of rows) await announce(db, comparison_id);
}

/** How long what is done, or was given up, can still be looked up. */
const DONE_KEPT_MS = 30 * 24 * 3600 * 1000;

/** Forgets the progress of work that ended long ago; what it made stays. */
export async function tidyProgress(db: Db, now: Date): Promise<number> {
  const rows = await db.rows(
    `DELETE FROM work WHERE state IN ('done', 'failed') AND updated_at < $1 RETURNING id`,
    [new Date(now.getTime() - DONE_KEPT_MS)],
  );
  return rows.length;
}

/** A full pg-boss for the worker process. */
export async function startBoss(): Promise<PgBoss> {
  const boss = new PgBoss({
    connectionString: config().DATABASE_URL,
    max: 4,
    monitorStateIntervalSeconds: 30,
  });
  boss.on('error', () => undefined);
  await boss.start();
  for (const queue of QUEUES) await boss.createQueue(queue);
  return boss;
}

/** Jobs that say they run; the worker asks whether their process still lives. */
export async function runningJobs(): Promise<JobProgress[]> {
  return dbOf(pool()).rows<JobProgress>(
    `SELECT id, queue, job_id, subject_id, comparison_id, label, state, progress, remark
     FROM work WHERE state = 'running'`,
  );
}
